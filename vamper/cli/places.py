"""Where a workshop is kept when nobody names a place: in a checkout in its `data` folder, else in the user's own."""

from pathlib import Path

from platformdirs import user_data_path

_CHECKOUT = Path(__file__).parents[2]
# A checkout has the project's file beside the package; what was installed has not.
IS_CHECKOUT = (_CHECKOUT / "pyproject.toml").exists()
FOLDER = Path("data") if IS_CHECKOUT else user_data_path("vamper", appauthor=False)


def make_folder() -> None:
    """Make the folder that Vamper uses of itself; any other is the maker's to make."""
    FOLDER.mkdir(parents=not IS_CHECKOUT, exist_ok=True)
