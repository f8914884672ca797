"""`make approve`: writes down anew what core says; the difference is to be looked through before it is committed."""

from tests.approved.sections import SECTIONS
from tests.approved.told import FOLDER, written

for name, section in SECTIONS.items():
    (FOLDER / f"{name}.txt").write_text(written(section()))
