"""The workshop: one file, and the services that work with it, put together here and nowhere else."""

from pathlib import Path

from vamper.core.sheet.pack.nesting import Nester
from vamper.services.design.art_zips import ArtZips
from vamper.services.design.arts import Arts
from vamper.services.design.designer import Designer
from vamper.services.design.item_pictures import ItemPictures
from vamper.services.design.kept_designs import KeptDesigns
from vamper.services.finish.evening import Evenings
from vamper.services.handoff.hand_offs import HandOffs
from vamper.services.handoff.ink import Inks
from vamper.services.jobs.composing import Compositions
from vamper.services.jobs.fixes import Fixes
from vamper.services.jobs.items import Items
from vamper.services.jobs.jobs import Jobs
from vamper.services.jobs.variants import Variants
from vamper.services.lan.passphrase import Passphrase
from vamper.services.ledger.handed import HandedOffs
from vamper.services.ledger.made_sheets import MadeSheets
from vamper.services.ledger.on_hand import OnHand
from vamper.services.ledger.runs import Runs
from vamper.services.ledger.supplies import Supplies
from vamper.services.ledger.taught import LearntFromRuns
from vamper.services.packing.by_hand import ByHand
from vamper.services.packing.counting import Counting
from vamper.services.packing.named import Layouts
from vamper.services.packing.packing_service import SEARCH_SECONDS, PackingService
from vamper.services.packing.scaling import ScalingService
from vamper.services.packing.tables import Tables
from vamper.services.planning.briefing import Briefing
from vamper.services.planning.handing_over import HandingOver
from vamper.services.planning.making import Making
from vamper.services.planning.plans import Plans
from vamper.services.planning.repacking import Repacking
from vamper.services.planning.simulations import Simulations
from vamper.services.planning.tonight import Tonight
from vamper.services.shop.garments import Garments
from vamper.services.shop.own_fonts import OwnFonts
from vamper.services.shop.shop import Shop
from vamper.services.shop.styles import Styles
from vamper.services.shop.usual import UsualMachines
from vamper.services.trainer.lessons import Lessons
from vamper.services.trainer.plays import Plays
from vamper.services.trainer.spoilt_sheets import SpoiltSheets
from vamper.services.twin.dry_run_service import DryRunService
from vamper.services.twin.dry_runs import SENSED_PPI
from vamper.services.twin.photo_checks import PhotoChecks
from vamper.store.database import Sessions, open_database


class Workshop:
    """Everything one server works with.

    Parameters
    ----------
    designer : Designer
        The designer of this workshop; a designer that keeps designs in this file where none is given.
    """

    def __init__(
        self, path: Path, nester: Nester, search_seconds: float = SEARCH_SECONDS, designer: Designer | None = None
    ) -> None:
        self.path = path
        self._engine = open_database(path)
        self.sessions = Sessions(self._engine)
        self._kept = KeptDesigns(self.sessions)
        self.designer = designer or Designer(kept=self._kept)
        self.nester = nester

        self.shop = Shop(self.sessions)
        self.usual = UsualMachines(self.sessions, self.shop)
        self.styles = Styles(self.sessions)
        self.garments = Garments(self.sessions)
        self.own_fonts = OwnFonts(self.sessions)
        self.passphrase = Passphrase(self.sessions)

        self.arts = Arts(self.sessions, self.designer)
        self.art_zips = ArtZips(self.arts, self.designer.room)
        self.pictures = ItemPictures(self.arts, self.designer, SENSED_PPI)
        self.runs = Runs(self.sessions)
        learnt = LearntFromRuns(self.runs, self.shop)
        self.jobs = Jobs(self.sessions, self.shop, self.usual, learnt.changes, learnt.waits)
        self.compositions = Compositions(self.sessions, self.arts, self.jobs, self.designer, self.own_fonts)
        self.items = Items(self.arts, self.jobs, self.designer, self.shop.stock)
        self.variants = Variants(self.jobs, self.arts, self.designer)
        self.fixes = Fixes(self.jobs, self.items, self.variants)

        self.packing = PackingService(self.sessions, nester, search_seconds)
        self.counting = Counting()
        self.tables = Tables()
        self.by_hand = ByHand(self.jobs)
        self.layouts = Layouts(self.sessions, self.jobs)
        self.scalings = ScalingService(nester)
        self.plans = Plans(self.jobs, self.arts, self.designer, self._kept, self.packing, self.tables)
        self.repacking = Repacking(self.jobs, self.plans, self.packing, self.by_hand, self.scalings, self._kept)

        self.inks = Inks(self.pictures.shown)
        self.hand_offs = HandOffs(self.arts, self.designer)
        self.handed_offs = HandedOffs(self.sessions, self.arts, self.designer)
        self.handing_over = HandingOver(self.sessions, self.jobs, self.plans, self.hand_offs, self.handed_offs)

        self.supplies = Supplies(self.sessions, self.runs)
        self.on_hand = OnHand(self.sessions)
        self.made = MadeSheets(
            self.sessions,
            self.shop,
            self.runs,
            self.supplies,
            self.handed_offs,
            self.plans.as_it_stands,
            self.inks.ml,
            self.on_hand,
        )
        self.making = Making(self.jobs, self.plans, self.packing, self.runs, self.made)
        self.briefing = Briefing(self.jobs, self.plans, self.shop, self.usual, self.supplies)

        self.dry_runs = DryRunService()
        self.photo_checks = PhotoChecks()
        self.simulations = Simulations(self.jobs, self.plans, self.repacking, self.dry_runs, self.pictures, self.shop)
        self.evenings = Evenings(self.sessions)
        self.tonight = Tonight(self.plans, self.evenings, self.shop)

        self.lessons = Lessons(self.jobs, self.arts, self.shop, self.runs, self.made)
        self.plays = Plays(self.sessions, self.jobs, self.lessons, self.designer, nester)
        self.spoilt_sheets = SpoiltSheets(self.sessions, self.designer, nester)

        for ended in (self.scalings.stop, self.dry_runs.forget, self.photo_checks.forget, self.packing.forget):
            self.jobs.on_removal(ended)

    def warm_up(self) -> None:
        """Read what opening a job needs, so that the first one opens at once."""
        self.plans.warm_up(self.runs.all)

    def close(self) -> None:
        self.plays.close()
        self.plans.close()
        self.art_zips.close()
        self.scalings.close()
        self.dry_runs.close()
        self.packing.close()
        self._kept.write()
        self._engine.dispose()
