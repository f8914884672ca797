"""A job handed over as it is planned now: its files in one zip, and a record that nothing changes afterwards."""

from vamper.services.handoff.hand_offs import HandOffs
from vamper.services.jobs.job_state import JobState, check_real
from vamper.services.jobs.jobs import Jobs
from vamper.services.ledger.handed import HandedOffs
from vamper.services.planning.plans import Plans
from vamper.store.database import Sessions


class HandingOver:
    """Hands over the jobs of one workshop."""

    def __init__(
        self, sessions: Sessions, jobs: Jobs, plans: Plans, hand_offs: HandOffs, handed_offs: HandedOffs
    ) -> None:
        self._sessions = sessions
        self._jobs = jobs
        self._plans = plans
        self._hand_offs = hand_offs
        self._handed_offs = handed_offs

    def bundle(self, state: JobState) -> bytes:
        """Everything in one zip, for a job as it is planned now."""
        check_real(state)
        planned = self._plans.of(state)
        return self._hand_offs.bundle(planned.plan, planned.findings)

    def record(self, state: JobState) -> None:
        """The job was handed over as it is: that stays known, whatever becomes of it."""
        check_real(state)
        planned = self._plans.of(state)
        with self._sessions.together():
            self._handed_offs.record(state.id, state.document, planned.plan, planned.findings)
            self._jobs.mark_handed_off(state.id)
