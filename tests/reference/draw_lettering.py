"""Draws words by renderers of other hands (FreeType by way of Pillow and of ImageMagick, Cairo by way of hb-view), as screens show them and as
photos do: in perspective of up to 25 degrees, blurred, noisy, unevenly lit, textured, colour on colour, spaced and stretched by up to a tenth,
saved as JPEG of quality 40. The corners of a photo are drawn as by hand, off by up to 4 % of its height.

stdin: a JSON list of {path, words, size, renderer, photo, seed, out}. Prints a line of JSON for each: its frame, or what went wrong.
"""
import json, sys, subprocess, os, io
import numpy as np
from PIL import Image, ImageDraw, ImageFont, ImageFilter

def pillow(one):
    font = ImageFont.truetype(one["path"], one["size"])
    l, t, r, b = font.getbbox(one["words"])
    im = Image.new("L", (r - l + 60, b - t + 60), 255)
    ImageDraw.Draw(im).text((30 - l, 30 - t), one["words"], font=font, fill=0)
    return im
def magick(one):
    out = one["out"] + ".m.png"
    subprocess.run(["/usr/bin/convert-im6.q16", "-background", "white", "-fill", "black", "-font", one["path"], "-pointsize", str(one["size"]), "label:" + one["words"], "-bordercolor", "white", "-border", "30", out], check=True, stderr=subprocess.DEVNULL)
    im = Image.open(out).convert("L"); im.load(); os.unlink(out); return im
def cairo(one):
    out = one["out"] + ".c.png"
    subprocess.run(["hb-view", "--output-format=png", f"--font-size={one['size']}", "--margin=24", "-o", out, one["path"], one["words"]], check=True)
    im = Image.open(out).convert("RGBA"); bg = Image.new("RGBA", im.size, "white"); bg.alpha_composite(im); os.unlink(out); return bg.convert("L")
def spaced(one, rng):
    """Letters set one by one with spacing changed by up to a tenth of the size."""
    font = ImageFont.truetype(one["path"], one["size"])
    extra = rng.uniform(-0.1, 0.1) * one["size"] * 0.5
    w = one["words"]
    xs = [font.getlength(w[:i]) + extra * i for i in range(len(w) + 1)]
    l, t, r, b = font.getbbox(w)
    im = Image.new("L", (int(r - l + abs(extra) * len(w)) + 120, b - t + 80), 0)
    x0 = 60 - min(0, l)
    arr = np.zeros((im.size[1], im.size[0]), np.float32)
    for i, c in enumerate(w):
        layer = Image.new("L", im.size, 0)
        ImageDraw.Draw(layer).text((x0 + xs[i], 40 - t), c, font=font, fill=255)
        arr = np.maximum(arr, np.asarray(layer, np.float32))
    return Image.fromarray((255 - arr).astype(np.uint8))
def find_box(ink):
    ys, xs = np.where(ink > 0.3)
    return xs.min(), ys.min(), xs.max() + 1, ys.max() + 1
def homography(src, dst):
    A = []
    for (x, y), (u, v) in zip(src, dst):
        A.append([x, y, 1, 0, 0, 0, -u * x, -u * y]); A.append([0, 0, 0, x, y, 1, -v * x, -v * y])
    return np.append(np.linalg.solve(np.array(A, float), np.array([c for p in dst for c in p], float)), 1).reshape(3, 3)
def photo(one):
    rng = np.random.default_rng(one["seed"])
    im = spaced(one, rng)
    sx = 1 + rng.uniform(-0.1, 0.1)
    im = im.resize((max(8, int(im.size[0] * sx)), im.size[1]), Image.BICUBIC)
    ink = 1 - np.asarray(im, np.float32) / 255
    x0, y0, x1, y1 = find_box(ink)
    pad = 0.25 * (y1 - y0)
    x0, y0, x1, y1 = x0 - pad, y0 - pad, x1 + pad, y1 + pad
    # perspective: rotate plane about both axes up to 25 degrees
    ax, ay, az = np.radians(rng.uniform(-18, 18)), np.radians(rng.uniform(-25, 25)), np.radians(rng.uniform(-8, 8))
    cx, cy, w, h = (x0 + x1) / 2, (y0 + y1) / 2, x1 - x0, y1 - y0
    f = 1.6 * max(w, h)
    def proj(x, y):
        p = np.array([x - cx, y - cy, 0.0])
        R = np.array([[np.cos(az), -np.sin(az), 0], [np.sin(az), np.cos(az), 0], [0, 0, 1]]) @ np.array([[np.cos(ay), 0, np.sin(ay)], [0, 1, 0], [-np.sin(ay), 0, np.cos(ay)]]) @ np.array([[1, 0, 0], [0, np.cos(ax), -np.sin(ax)], [0, np.sin(ax), np.cos(ax)]])
        p = R @ p
        k = f / (f + p[2])
        return (p[0] * k, p[1] * k)
    src = [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]
    dst = [proj(*p) for p in src]
    mx, my = min(p[0] for p in dst) - 40, min(p[1] for p in dst) - 40
    dst = [(p[0] - mx, p[1] - my) for p in dst]
    W, H = int(max(p[0] for p in dst) + 40), int(max(p[1] for p in dst) + 40)
    M = homography(dst, src)
    warped = im.transform((W, H), Image.PERSPECTIVE, tuple((M / M[2, 2]).flatten()[:8]), Image.BICUBIC, fillcolor=255)
    ink = 1 - np.asarray(warped, np.float32) / 255
    ink = np.asarray(Image.fromarray((ink * 255).clip(0, 255).astype(np.uint8)).filter(ImageFilter.GaussianBlur(rng.uniform(0.3, 0.022 * one["size"]))), np.float32) / 255
    # colours: ground and letters, told apart by lightness or by hue
    while True:
        a, b = rng.uniform(0, 255, 3), rng.uniform(0, 255, 3)
        if np.linalg.norm(a - b) > 110: break
    yy, xx = np.mgrid[0:H, 0:W]
    light = 1 + rng.uniform(0.1, 0.3) * ((xx / W - 0.5) * np.cos(rng.uniform(0, 6.3)) + (yy / H - 0.5) * np.sin(rng.uniform(0, 6.3)))
    texture = np.asarray(Image.fromarray(rng.uniform(0, 255, (H // 3 + 2, W // 3 + 2)).astype(np.uint8)).resize((W, H), Image.BICUBIC), np.float32) / 255 - 0.5
    rgb = (a[None, None] * (1 - ink[..., None]) + b[None, None] * ink[..., None]) * light[..., None] + 14 * texture[..., None] + rng.normal(0, 6, (H, W, 3))
    out = Image.fromarray(rgb.clip(0, 255).astype(np.uint8))
    buf = io.BytesIO(); out.save(buf, "JPEG", quality=40)
    # corners drawn by a person: off by up to 4 % of the height
    j = lambda: rng.uniform(-0.04, 0.04) * (y1 - y0)
    return buf.getvalue(), [[p[0] + j(), p[1] + j()] for p in dst]
for one in json.load(sys.stdin):
    try:
        if one.get("photo"):
            data, frame = photo(one)
            open(one["out"], "wb").write(data)
        else:
            im = {"pillow": pillow, "magick": magick, "cairo": cairo}[one["renderer"]](one)
            ink = 1 - np.asarray(im, np.float32) / 255
            x0, y0, x1, y1 = find_box(ink)
            im.save(one["out"]); p = max(4, 0.1 * (y1 - y0))
            frame = [[x0 - p, y0 - p], [x1 + p, y0 - p], [x1 + p, y1 + p], [x0 - p, y1 + p]]
        print(json.dumps({"out": one["out"], "frame": [[float(c) for c in p] for p in frame]}), flush=True)
    except Exception as e:
        print(json.dumps({"out": one["out"], "error": str(e)[:100]}), flush=True)
