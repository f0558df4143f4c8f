"""Draws words in fonts by renderers of other hands: FreeType by way of Pillow and of ImageMagick, Cairo by way of hb-view.

Usage: draw_pictures.py FOLDER WORDS SIZE FONT…   Writes FOLDER/NUMBER-RENDERER.png, numbers from 0.
"""
import subprocess
import sys

from PIL import Image, ImageDraw, ImageFont

folder, words, size, fonts = sys.argv[1], sys.argv[2], int(sys.argv[3]), sys.argv[4:]
for number, path in enumerate(fonts):
    font = ImageFont.truetype(path, size)
    left, top, right, bottom = font.getbbox(words)
    image = Image.new("L", (right - left + 60, bottom - top + 60), 255)
    ImageDraw.Draw(image).text((30 - left, 30 - top), words, font=font, fill=0)
    image.save(f"{folder}/{number}-pillow.png")
    label = ["-font", path, "-pointsize", str(size), f"label:{words}", "-bordercolor", "white", "-border", "30"]
    subprocess.run(
        ["/usr/bin/convert-im6.q16", "-background", "white", "-fill", "black", *label, f"{folder}/{number}-magick.png"],
        check=True,
        stderr=subprocess.DEVNULL,
    )
    view = ["hb-view", "--output-format=png", f"--font-size={size}", "--margin=24"]
    subprocess.run([*view, "-o", f"{folder}/{number}-cairo.png", path, words], check=True)
