"""Saves a picture as other programs do: eight ways a camera may be held (Exif orientation), and WebP of both kinds.

Usage: save_pictures.py PICTURE FOLDER   Writes FOLDER/held-1.jpg to held-8.jpg, each upright once turned as its Exif says, FOLDER/lossy.webp
and FOLDER/lossless.webp.
"""
import sys

from PIL import Image, ImageOps

picture = Image.open(sys.argv[1]).convert("RGB")
folder = sys.argv[2]
STORED = {
    1: None,
    2: Image.FLIP_LEFT_RIGHT,
    3: Image.ROTATE_180,
    4: Image.FLIP_TOP_BOTTOM,
    5: Image.TRANSPOSE,
    6: Image.ROTATE_90,
    7: Image.TRANSVERSE,
    8: Image.ROTATE_270,
}
for held, turn in STORED.items():
    exif = Image.Exif()
    exif[0x0112] = held
    path = f"{folder}/held-{held}.jpg"
    (picture if turn is None else picture.transpose(turn)).save(path, exif=exif, quality=90)
    # Pillow itself turns it back to what it was.
    assert ImageOps.exif_transpose(Image.open(path)).size == picture.size
picture.save(f"{folder}/lossy.webp", quality=85)
picture.save(f"{folder}/lossless.webp", lossless=True)
