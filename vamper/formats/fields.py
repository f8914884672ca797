"""What every model of a file has in common: it refuses fields it does not know, and lengths have a range."""

from pathlib import PurePosixPath
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from vamper.formats.safe_text import is_plain

Length = Annotated[float, Field(gt=0, le=3000, allow_inf_nan=False)]
Distance = Annotated[float, Field(ge=0, le=200, allow_inf_nan=False)]
Colour = Annotated[str, Field(pattern=r"^#[0-9A-Fa-f]{6}$")]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
PageNumber = Annotated[int, Field(ge=1, le=10_000)]
LiftTolerance = Annotated[float, Field(ge=0.5, le=60, allow_inf_nan=False)]
CropBox = Annotated[tuple[Share, ...], Field(min_length=4, max_length=4)]


class Strict(BaseModel):
    """Refuses fields it does not know."""

    model_config = ConfigDict(extra="forbid", frozen=True)


def inside_folder(value: str) -> str:
    """A path that stays inside its folder; `ValueError` for any other."""
    path = PurePosixPath(value.replace("\\", "/"))
    if path.is_absolute() or ".." in path.parts or ":" in value:
        raise ValueError("must stay inside the job file's folder")
    if not is_plain(value):
        raise ValueError("must be a plain file name, without control signs or signs of direction")
    return value
