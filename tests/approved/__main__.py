"""`make approve`: writes down anew what core says; the difference is to be looked through before it is committed."""

import json

from tests.approved.sections import SECTIONS
from tests.approved.told import FOLDER, told

for name, section in SECTIONS.items():
    lines = [f"{json.dumps(key)}: {json.dumps(told(thing))}" for key, thing in section()]
    (FOLDER / f"{name}.json").write_text("{\n" + ",\n".join(lines) + "\n}\n")
