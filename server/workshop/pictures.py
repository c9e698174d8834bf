"""Pictures people add: checked, cleaned of what a camera writes into them, and made small."""

from io import BytesIO
from threading import Lock

from oilward_core.errors import CoreError
from PIL import Image, ImageOps

MOST_BYTES, MOST_PIXELS, LONG_SIDE = 12_000_000, 25_000_000, 1600
MOST_BODY = MOST_BYTES + 100_000  # with what stands around it in a form
_KINDS = ("JPEG", "PNG", "WEBP")
_ONE_AT_A_TIME = Lock()  # a picture is large once it is unpacked


def clean_picture(raw: bytes) -> bytes:
    """A picture as a JPEG of at most 1600 pixels, upright, without place, date or camera.

    Raises CoreError ``picture.large`` and ``picture.kind`` at field ``picture``.
    """
    if len(raw) > MOST_BYTES:
        raise CoreError("picture.large", field="picture")
    with _ONE_AT_A_TIME:
        return _cleaned(raw)


def _cleaned(raw: bytes) -> bytes:
    try:
        with Image.open(BytesIO(raw), formats=_KINDS) as found:
            if found.width * found.height > MOST_PIXELS:
                raise CoreError("picture.large", field="picture")
            found.draft("RGB", (LONG_SIDE, LONG_SIDE))
            upright = ImageOps.exif_transpose(found).convert("RGB")
    except CoreError:
        raise
    except Exception as error:  # a decoder falls over broken bytes in more ways than it names
        raise CoreError("picture.kind", field="picture") from error
    upright.thumbnail((LONG_SIDE, LONG_SIDE))
    clean = Image.new("RGB", upright.size)
    clean.paste(upright)
    out = BytesIO()
    clean.save(out, "JPEG", quality=84, optimize=True)
    return out.getvalue()
