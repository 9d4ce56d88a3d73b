"""Photos of plates: checked, turned upright, made small, and kept without anything the camera wrote into them."""

import io
import warnings

from peewee import MySQLDatabase
from PIL import Image, ImageOps, UnidentifiedImageError
from pydantic import BaseModel

from mainspring.core.errors import BadEntry
from mainspring.core.line.stations import GROUPS
from mainspring.store import repository
from mainspring.store.database import transact
from mainspring.store.repository import KeptPhoto

FORMATS = ("JPEG", "PNG", "WEBP")
FILE_LIMIT = 15_000_000  # bytes
PIXEL_LIMIT = 60_000_000
LONGEST_SIDE = 2000  # pixels; a plate is legible well below it
QUALITY = 84
PER_STATION = 8
PER_RUN_SHEET = 60
RUN_SHEET = "run"  # photos that are evidence rather than plates


class PhotoView(BaseModel):
    """A photo kept with a line."""

    id: str
    station: str
    width: int
    height: int
    by: str


def photos_view(db: MySQLDatabase, line_id: str) -> list[PhotoView]:
    """The photos of a line."""

    def read() -> list[KeptPhoto]:
        repository.line(line_id)  # not found: says so
        return repository.photos(line_id)

    return [PhotoView(id=p.id, station=p.station, width=p.width, height=p.height, by=p.by) for p in transact(db, read)]


def add_photo(
    db: MySQLDatabase, line_id: str, photo_id: str, station: str, content: bytes, who: str
) -> list[PhotoView]:
    """Keep a photo of a station's plate.

    Raises BadEntry for a file that is no picture of a format taken, too large, or one too many; nothing is kept then.
    """
    if station not in GROUPS and station != RUN_SHEET:
        raise BadEntry("station", station, ", ".join([*GROUPS, RUN_SHEET]))
    width, height, picture = reencode(content)

    def write() -> None:
        repository.line(line_id)
        kept = repository.photos(line_id)
        most = PER_RUN_SHEET if station == RUN_SHEET else PER_STATION
        if sum(p.station == station and p.id != photo_id for p in kept) >= most:
            raise BadEntry("photos", f"{most} at this station", "as many at most; take one away first")
        repository.add_photo(line_id, KeptPhoto(photo_id, station, width, height, who, repository.now()), picture)

    transact(db, write)
    return photos_view(db, line_id)


def remove_photo(db: MySQLDatabase, line_id: str, photo_id: str, who: str) -> list[PhotoView]:
    """Take a photo away."""
    transact(db, lambda: repository.remove_photo(line_id, photo_id, who))
    return photos_view(db, line_id)


def picture(db: MySQLDatabase, line_id: str, photo_id: str) -> bytes:
    """The JPEG of a photo."""
    return transact(db, lambda: repository.picture(line_id, photo_id))


def reencode(content: bytes) -> tuple[int, int, bytes]:
    """Width, height and JPEG of a picture: upright, at most 2000 pixels long, no metadata.

    Only the pixels are carried over, so that place, time and camera cannot leave with it. Raises BadEntry.
    """
    if len(content) > FILE_LIMIT:
        raise BadEntry("photo", f"{len(content) / 1e6:.0f} MB", f"up to {FILE_LIMIT / 1e6:.0f} MB")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(content), formats=FORMATS) as opened:
                if opened.width * opened.height > PIXEL_LIMIT:
                    raise BadEntry("photo", f"{opened.width} x {opened.height} pixels", "up to 60 million pixels")
                upright = ImageOps.exif_transpose(opened)
                upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
                flat = Image.new("RGB", upright.size, "white")
                layered = upright.convert("RGBA")
                flat.paste(layered, mask=layered.getchannel("A"))
    except (UnidentifiedImageError, Image.DecompressionBombError, Image.DecompressionBombWarning) as error:
        raise BadEntry("photo", "this file", "a JPEG, PNG or WebP picture") from error
    except (OSError, ValueError, SyntaxError) as error:  # cut off or damaged
        raise BadEntry("photo", "this file", "a whole JPEG, PNG or WebP picture; this one is damaged") from error
    out = io.BytesIO()
    flat.save(out, "JPEG", quality=QUALITY, optimize=True)
    return flat.width, flat.height, out.getvalue()
