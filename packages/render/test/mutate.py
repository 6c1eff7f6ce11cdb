"""Does to pictures what other programs do. Use: mutate.py OP IN OUT [SEED]: places are from the seed."""
import random
import shutil
import sys
import numpy as np
from PIL import Image

op, source, out, *seed = sys.argv[1:]
chance = random.Random(int(seed[0])) if seed else None
image = Image.open(source)
image.load()
if op == "packet":
    # The XMP packet as this library finds it in each format.
    named = [v for k, v in image.info.items() if k == "xmp" or k.endswith("xmp")]
    segments = [data.split(b"\0", 1)[1] for name, data in getattr(image, "applist", []) if name == "APP1" and data[:4] == b"http"]
    tagged = [image.tag_v2[700]] if image.format == "TIFF" and 700 in image.tag_v2 else []
    found = [one.encode() if isinstance(one, str) else one for one in named + segments + tagged]
    with open(out, "wb") as file:
        file.write(found[0] if found else b"")
    sys.exit()
profile, dpi = image.info.get("icc_profile"), image.info.get("dpi")
keep = {"dpi": dpi} if dpi else {}
if profile:
    keep["icc_profile"] = profile
pixels = np.asarray(image).astype(int)
h, w = pixels.shape[:2]
# A place about the middle, or anywhere.
x0 = chance.randrange(w // 8, 5 * w // 8) if chance else w // 3
y0 = chance.randrange(h // 8, 5 * h // 8) if chance else h // 2


def save(array, **more):
    Image.fromarray(np.clip(array, 0, 255).astype(np.uint8)).save(out, **{**keep, **more})


best = {"quality": 100, "subsampling": 0} if out.endswith("jpg") else {}
if chance and "A" in image.getbands():
    # Where something is seen.
    seen = np.argwhere(pixels[: h - h // 12, : w - w // 12, 3] > 200)
    y0, x0 = (int(one) for one in seen[chance.randrange(len(seen))])
if op == "line" and chance:
    y0 = max(y0, 3)
    pixels[y0, x0 : x0 + w // 4, :3] = (pixels[y0 - 3, x0 : x0 + w // 4, :3] + 100) % 256
    save(pixels, **best)
elif op == "line":
    pixels[h // 3, w // 4 : w // 2, :3] = pixels[h // 3 - 3, w // 4 : w // 2, :3]
    pixels[h // 3, w // 4 : w // 2, :3] += 24
    save(pixels, **best)
elif op == "dot":
    at = (y0, x0 if chance else w // 2)
    pixels[at][:3] = (pixels[at][:3] + 128) % 256 if chance else 255 - pixels[at][:3]
    save(pixels, **best)
elif op == "recolour":
    pixels[y0 : y0 + 40, x0 : x0 + 50, 0] += 10
    save(pixels, **best)
elif op == "shift":
    save(np.roll(pixels, 1, axis=1), **best)
elif op == "crop":
    save(pixels[:, 1:], **best)
elif op == "resample":
    image.resize((w - 40, round((w - 40) * h / w)), Image.LANCZOS).save(out, **keep)
elif op == "brighter":
    pixels[..., :3] = pixels[..., :3] * 0.9 + 20
    save(pixels, **best)
elif op == "quality":
    image.save(out, quality=60, **keep)
elif op == "profile":
    del keep["icc_profile"]
    save(pixels, **best)
elif op == "flatten" and "A" not in image.getbands():
    # Nothing to take away.
    shutil.copy(source, out)
elif op == "flatten":
    ground = Image.new("RGB", image.size, "white")
    ground.paste(image, mask=image.getchannel("A"))
    ground.save(out, **keep)
elif op == "flip":
    save(pixels[:, ::-1], **best)
elif op == "turn":
    save(pixels[::-1, ::-1], **best)
elif op == "erase":
    pixels[y0 : y0 + h // 12, x0 : x0 + w // 12, :3] = 255
    save(pixels, **best)
elif op == "soften":
    from PIL import ImageFilter
    image.filter(ImageFilter.GaussianBlur(1.2)).save(out, **keep, **best)
elif op == "again":
    image.save(out, **keep, **({"compress_level": 1} if out.endswith("png") else {"compression": "tiff_lzw"}))
elif op == "plain":
    # Loses all that is said beside the pixels, but what they are stated in and how dense they lie.
    image.save(out, optimize=True, **keep)
else:
    sys.exit(f"no such thing as {op}")
