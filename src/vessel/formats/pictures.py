"""Scanned plans and photos as they come from people: read, turned upright, made small, freed of what they carry along.

A phone's photo says where and when it was taken and by whom; nothing of that is kept.
"""

from __future__ import annotations

from dataclasses import dataclass
from io import BytesIO
from typing import Literal

from PIL import Image, ImageOps

from vessel.core.base.errors import BadInput

Media = Literal["image/png", "image/jpeg"]
MOST_PIXELS = 60_000_000
"""Larger ones would take too much memory to read."""
LONGEST_PX = 2600
"""A page at 220 dots an inch; more is not seen under a site plan."""
_HEAVY = 2_500_000
_QUALITY = 85
_MEDIA: dict[str, Media] = {"PNG": "image/png", "JPEG": "image/jpeg"}
_FIX = "Send a PNG or JPEG. Save a page of a PDF as a picture first."


@dataclass(frozen=True)
class Picture:
    """A picture as it is stored: its bytes, media type, and width and height [px]."""

    data: bytes
    media: Media
    size_px: tuple[int, int]


def taken_in(data: bytes) -> Picture:
    """Return a picture as it is stored, small enough and with nothing but what is seen.

    Args:
        data: The file.

    Returns:
        The picture: PNG for drawings, JPEG for photos.

    Raises:
        BadInput: If it is no PNG or JPEG, breaks off, or is too large.
    """
    try:
        with _opened(data) as opened:
            flat = opened.mode in ("1", "L", "P")
            opened.draft("RGB", (LONGEST_PX, LONGEST_PX))
            upright = ImageOps.exif_transpose(opened)
            # palettes mix badly when they are made small, and a picture seen through shows the sheet below it
            seen = upright.convert("L" if upright.mode in ("1", "L") else "RGBA" if _clear(upright) else "RGB")
            seen.thumbnail((LONGEST_PX, LONGEST_PX))
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as e:
        raise _unreadable() from e
    drawing = flat or opened.format == "PNG"
    if drawing:
        packed = _written(seen, "PNG")
        if len(packed) <= _HEAVY:
            return Picture(packed, "image/png", seen.size)
    on_white = Image.new("RGB", seen.size, "white")
    on_white.paste(seen, mask=seen.getchannel("A") if seen.mode == "RGBA" else None)
    return Picture(_written(on_white, "JPEG"), "image/jpeg", seen.size)


def checked_picture(data: bytes, media: str, size_px: tuple[int, int]) -> None:
    """Refuse bytes that are not the picture they are said to be: they came with a file."""
    try:
        with _opened(data) as opened:
            opened.verify()
            told = (_MEDIA.get(opened.format or ""), opened.size)
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as e:
        raise _unreadable() from e
    if told != (media, size_px):
        raise _unreadable()


def _opened(data: bytes) -> Image.Image:
    opened = Image.open(BytesIO(data), formats=tuple(_MEDIA))
    if opened.width * opened.height > MOST_PIXELS:
        opened.close()
        raise BadInput(
            f"The picture has {opened.width * opened.height / 1e6:.0f} million pixels; "
            f"Vessel takes {MOST_PIXELS / 1e6:.0f} million.",
            field="image",
            fix="Scan it at 200 dots an inch, or make it smaller.",
        )
    return opened


def _clear(image: Image.Image) -> bool:
    return image.has_transparency_data


def _written(image: Image.Image, kind: str) -> bytes:
    out = BytesIO()
    if kind == "PNG":
        image.save(out, kind, optimize=True)
    else:
        image.save(out, kind, quality=_QUALITY)
    return out.getvalue()


def _unreadable() -> BadInput:
    return BadInput("This is no picture that Vessel can read.", field="image", fix=_FIX)
