"""Photos of plates: checked, turned upright, made small, and kept without anything the camera wrote into them."""

import io
import warnings

from PIL import Image, ImageOps, UnidentifiedImageError
from pydantic import BaseModel

from mainspring.core.errors import BadEntry
from mainspring.core.line.stations import GROUPS
from mainspring.service.commands import carry_out
from mainspring.service.errors import InUse
from mainspring.service.lines import check_who
from mainspring.service.opened import Opened, OpenLines
from mainspring.service.present import present
from mainspring.store import repository
from mainspring.store.repository import Change, IdTaken, KeptPhoto

FORMATS = ("JPEG", "PNG", "WEBP")
FILE_LIMIT = 15_000_000  # bytes
PIXEL_LIMIT = 50_000_000  # at four bytes each 200 MB while it is decoded
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


class Photos:
    """What is done with photos."""

    def __init__(self, lines: OpenLines) -> None:
        self.lines = lines

    def view(self, line_id: str) -> list[PhotoView]:
        """The photos of a line."""

        def read() -> list[KeptPhoto]:
            repository.head(line_id)  # not found: says so
            return repository.photos(line_id)

        found = self.lines.transact(read)
        return [present(None, PhotoView, p) for p in found]

    def add(self, line_id: str, photo_id: str, station: str, content: bytes, by: str) -> list[PhotoView]:
        """Keep a photo of a station's plate, or of a step.

        Raises BadEntry for a file that is no picture of a format taken, too large, or one too many, and IdTaken for an
        id that another picture has; nothing is kept then.
        """
        by = check_who(by)
        if station not in GROUPS and station != RUN_SHEET:
            raise BadEntry("station", station[:80], ", ".join([*GROUPS, RUN_SHEET]))
        width, height, picture = reencode(content)

        def decide(_: Opened) -> Change:
            kept = self.lines.transact(lambda: repository.photos(line_id))
            known = next((p for p in kept if p.id == photo_id), None)
            if known is not None:
                if self.picture(line_id, photo_id) != picture or known.station != station:
                    raise IdTaken("this id belongs to another photo of this line; nothing was kept")
                return Change(by)
            most = PER_RUN_SHEET if station == RUN_SHEET else PER_STATION
            if sum(p.station == station for p in kept) >= most:
                raise BadEntry("photos", f"{most} at this station", "as many at most; take one away first")
            made = KeptPhoto(photo_id, station, width, height, by, repository.now())
            return Change(by, photo=made, picture=picture)

        carry_out(self.lines, line_id, decide)
        return self.view(line_id)

    def remove(self, line_id: str, photo_id: str, by: str) -> list[PhotoView]:
        """Take a photo away; one that is evidence stays. Raises InUse."""
        by = check_who(by)

        def decide(opened: Opened) -> Change:
            if not any(p.id == photo_id for p in self.lines.transact(lambda: repository.photos(line_id))):
                return Change(by)
            proof = next(
                (e for e in opened.ids.values() if e.kind == "photo" and e.data.get("photo") == photo_id), None
            )
            if proof is not None:
                status = opened.status(proof.step)
                raise InUse(f"this photo is evidence of “{status.step.title if status else proof.step}”: it stays")
            return Change(by, photo_removed=photo_id)

        carry_out(self.lines, line_id, decide)
        return self.view(line_id)

    def picture(self, line_id: str, photo_id: str) -> bytes:
        """The JPEG of a photo."""
        return self.lines.transact(lambda: repository.picture(line_id, photo_id))


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
                    most = f"up to {PIXEL_LIMIT / 1e6:.0f} million pixels"
                    raise BadEntry("photo", f"{opened.width} x {opened.height} pixels", most)
                opened.draft(None, (LONGEST_SIDE, LONGEST_SIDE))  # a JPEG is decoded no larger than it is wanted
                opened.thumbnail((LONGEST_SIDE, LONGEST_SIDE))  # small before it is turned or laid on white
                upright = ImageOps.exif_transpose(opened)
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
