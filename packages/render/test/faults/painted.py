"""Paints on pictures, and saves them again without harm (Pillow, which has codecs of its own).

python3 painted.py SEED EACH
Takes a.png, a.jpeg, a.webp and a.tiff in this folder; writes fault-* and same-*, and prints their names.
"""
import io
import warnings

from PIL import Image, ImageChops, ImageDraw, ImageEnhance, ImageFilter, ImageOps, PngImagePlugin

from outsider import Cannot, told, write

warnings.simplefilter("ignore")
# How each format is written so that nothing is lost by it, or as little as can be.
BEST = {
    "png": {},
    "jpeg": {"quality": 98, "subsampling": 0},
    "webp": {"quality": 100, "method": 4},
    "tiff": {"compression": "tiff_lzw"},
}


class Picture:
    format = ""

    def __init__(self, rnd):
        self.rnd = rnd
        with open(f"a.{self.format}", "rb") as file:
            self.source = file.read()
        self.image = Image.open(io.BytesIO(self.source))
        self.image.load()
        # Of sixteen bits Pillow reads no colours: nothing of it is painted on.
        if self.image.mode not in ("RGB", "RGBA"):
            raise Cannot
        kept = self.image.info
        self.how = {**BEST[self.format], **{key: kept[key] for key in ("dpi", "icc_profile") if kept.get(key)}}

    @property
    def size(self):
        return self.image.size

    def within(self, wide, high):
        w, h = self.size
        x, y = self.rnd.randrange(2, w - wide - 2), self.rnd.randrange(2, h - high - 2)
        return (x, y, x + wide, y + high)

    def bytes(self):
        out = io.BytesIO()
        self.image.save(out, {"tiff": "TIFF"}.get(self.format, self.format.upper()), **self.how)
        return out.getvalue()


def of(kind):
    return type(f"{kind}Picture", (Picture,), {"format": kind})


def colours(change):
    """All colours, whatever covers them."""
    def act(picture):
        image = picture.image
        if image.mode == "RGBA":
            alpha = image.getchannel("A")
            changed = change(image.convert("RGB"), picture)
            changed.putalpha(alpha)
        else:
            changed = change(image, picture)
        if ImageChops.difference(changed.convert("RGB"), image.convert("RGB")).getbbox() is None:
            raise Cannot
        picture.image = changed
    return act


def drawn(draw):
    def change(image, picture):
        image = image.copy()
        draw(ImageDraw.Draw(image), picture)
        return image
    return colours(change)


def region(change, wide=40, high=30):
    def act(image, picture):
        image, box = image.copy(), picture.within(wide, high)
        image.paste(change(image.crop(box)), box)
        return image
    return colours(act)


def points(of):
    return lambda part: part.point(of)


def bands(*order):
    return lambda image, picture: Image.merge("RGB", [image.split()[i] for i in order])


def band(at, of):
    def change(image, picture):
        parts = list(image.split())
        parts[at] = parts[at].point(of)
        return Image.merge("RGB", parts)
    return change


def laid(change):
    """The whole picture, what covers it as well."""
    return lambda picture: setattr(picture, "image", change(picture.image, picture))


def moved_part(image, picture):
    image = image.copy()
    a, b = picture.within(30, 30), picture.within(30, 30)
    image.paste(image.crop(a), b)
    return image


def halves(image, picture):
    w, h = image.size
    out = image.copy()
    out.paste(image.crop((0, 0, w // 2, h)), (w - w // 2, 0))
    out.paste(image.crop((w // 2, 0, w, h)), (0, 0))
    return out


def framed(image, picture):
    w, h = image.size
    return ImageOps.expand(image.crop((3, 3, w - 3, h - 3)), 3, (12, 12, 12))


def noisy(strength):
    def change(image, picture):
        noise = Image.effect_noise(image.size, strength).convert("L")
        return ImageChops.add(image, Image.merge("RGB", [noise] * 3), 1, -128)
    return change


def text(words):
    return drawn(lambda pen, picture: pen.text((picture.rnd.randrange(5, 200), picture.rnd.randrange(5, 150)), words, fill=(250, 250, 250)))


W, B = (255, 255, 255), (0, 0, 0)
FAULTS = {
    "a dot": drawn(lambda pen, picture: pen.ellipse(picture.within(4, 4), fill=(255, 0, 0))),
    "a speck": drawn(lambda pen, picture: pen.rectangle(picture.within(1, 1), fill=(255, 255, 0))),
    "a hair": drawn(lambda pen, picture: pen.line(picture.within(60, 40), fill=W)),
    "a black line": drawn(lambda pen, picture: pen.line(picture.within(90, 2), fill=B, width=2)),
    "a row": drawn(lambda pen, picture: pen.line((0, picture.size[1] // 3, picture.size[0], picture.size[1] // 3), fill=W)),
    "a column": drawn(lambda pen, picture: pen.line((picture.size[0] // 3, 0, picture.size[0] // 3, picture.size[1]), fill=B)),
    "the first row": drawn(lambda pen, picture: pen.line((0, 0, picture.size[0], 0), fill=(200, 30, 30))),
    "the last column": drawn(lambda pen, picture: pen.line((picture.size[0] - 1, 0, picture.size[0] - 1, picture.size[1]), fill=(30, 200, 30))),
    "a corner": drawn(lambda pen, picture: pen.rectangle((0, 0, 7, 7), fill=W)),
    "a box": drawn(lambda pen, picture: pen.rectangle(picture.within(50, 40), outline=(240, 30, 30))),
    "a disc": drawn(lambda pen, picture: pen.ellipse(picture.within(40, 40), fill=(30, 90, 200))),
    "an arc": drawn(lambda pen, picture: pen.arc(picture.within(50, 50), 0, 120, fill=W, width=2)),
    "a word": text("FEN"),
    "many words": text("not to be sold"),
    "a number": text("7"),
    "painted out": drawn(lambda pen, picture: pen.rectangle(picture.within(30, 20), fill=(128, 128, 128))),
    "painted white": drawn(lambda pen, picture: pen.rectangle(picture.within(60, 60), fill=W)),
    "a part lighter": region(points(lambda v: min(255, v + 14))),
    "a part darker": region(points(lambda v: max(0, v - 14))),
    "a part in grey": region(lambda part: part.convert("L").convert("RGB")),
    "a part turned over": region(ImageOps.mirror),
    "a part upside down": region(ImageOps.flip),
    "a part blurred": region(lambda part: part.filter(ImageFilter.GaussianBlur(3)), 60, 50),
    "a part sharper": region(lambda part: part.filter(ImageFilter.UnsharpMask(2, 250, 0)), 60, 50),
    "a part of few colours": region(lambda part: part.quantize(4).convert("RGB"), 60, 50),
    "a part in squares": region(lambda part: part.resize((8, 6), Image.NEAREST).resize(part.size, Image.NEAREST)),
    "a part in the other light": region(ImageOps.invert, 12, 12),
    "a part somewhere else": colours(moved_part),
    "halves exchanged": colours(halves),
    "a frame": colours(framed),
    "lighter": colours(lambda image, picture: ImageEnhance.Brightness(image).enhance(1.06)),
    "darker": colours(lambda image, picture: ImageEnhance.Brightness(image).enhance(0.94)),
    "harder": colours(lambda image, picture: ImageEnhance.Contrast(image).enhance(1.12)),
    "softer": colours(lambda image, picture: ImageEnhance.Contrast(image).enhance(0.88)),
    "more colour": colours(lambda image, picture: ImageEnhance.Color(image).enhance(1.4)),
    "less colour": colours(lambda image, picture: ImageEnhance.Color(image).enhance(0.6)),
    "no colour": colours(lambda image, picture: image.convert("L").convert("RGB")),
    "warmer": colours(band(2, lambda v: max(0, v - 16))),
    "colder": colours(band(0, lambda v: max(0, v - 16))),
    "greener": colours(band(1, lambda v: min(255, v + 14))),
    "no red": colours(band(0, lambda v: 0)),
    "red and blue exchanged": colours(bands(2, 1, 0)),
    "green and blue exchanged": colours(bands(0, 2, 1)),
    "all turned over": colours(lambda image, picture: ImageOps.invert(image)),
    "bent": colours(lambda image, picture: image.point([round(255 * (i / 255) ** 0.85) for i in range(256)] * 3)),
    "few steps": colours(lambda image, picture: ImageOps.posterize(image, 3)),
    "burnt": colours(lambda image, picture: ImageOps.solarize(image, 160)),
    "evened out": colours(lambda image, picture: ImageOps.equalize(image)),
    "stretched light": colours(lambda image, picture: ImageOps.autocontrast(image, 3)),
    "few colours": colours(lambda image, picture: image.quantize(16).convert("RGB")),
    "dithered": colours(lambda image, picture: image.convert("P", palette=Image.ADAPTIVE, colors=8).convert("RGB")),
    "blurred": colours(lambda image, picture: image.filter(ImageFilter.GaussianBlur(1.5))),
    "sharper": colours(lambda image, picture: image.filter(ImageFilter.UnsharpMask(2, 160, 2))),
    "smoothed": colours(lambda image, picture: image.filter(ImageFilter.MedianFilter(5))),
    "edges": colours(lambda image, picture: image.filter(ImageFilter.EDGE_ENHANCE_MORE)),
    "embossed": colours(lambda image, picture: image.filter(ImageFilter.EMBOSS)),
    "noisy": colours(noisy(40)),
    "a little noisy": colours(noisy(14)),
    "larger dots": colours(lambda image, picture: image.resize((image.size[0] // 2, image.size[1] // 2)).resize(image.size)),
    "a dot to the right": colours(lambda image, picture: ImageChops.offset(image, 1, 0)),
    "two dots lower": colours(lambda image, picture: ImageChops.offset(image, 0, 2)),
    "turned a little": laid(lambda image, picture: image.rotate(0.7, Image.BICUBIC)),
    "turned by half": laid(lambda image, picture: image.rotate(180)),
    "on its side": laid(lambda image, picture: image.rotate(90, expand=True)),
    "mirrored": laid(lambda image, picture: ImageOps.mirror(image)),
    "upside down": laid(lambda image, picture: ImageOps.flip(image)),
    "cropped on the right": laid(lambda image, picture: image.crop((0, 0, image.size[0] - 4, image.size[1]))),
    "cropped above": laid(lambda image, picture: image.crop((0, 4, image.size[0], image.size[1]))),
    "larger": laid(lambda image, picture: image.resize((image.size[0] * 2, image.size[1] * 2))),
    "smaller": laid(lambda image, picture: image.resize((image.size[0] // 2, image.size[1] // 2))),
    "wider": laid(lambda image, picture: image.resize((image.size[0] + 6, image.size[1]))),
    "a little larger, and cropped": laid(lambda image, picture: image.resize((image.size[0] + 6, image.size[1] + 4)).crop((3, 2, image.size[0] + 3, image.size[1] + 2))),
    "twice as dense": lambda picture: picture.how.update(dpi=tuple(2 * float(v) for v in picture.image.info["dpi"])) if picture.format != "webp" else (_ for _ in ()).throw(Cannot),
}


def seen_through(change):
    def act(picture):
        if picture.format == "jpeg":
            raise Cannot
        image = picture.image.convert("RGBA")
        image.putalpha(change(image.getchannel("A"), picture))
        picture.image = image
    return act


def hole(alpha, picture):
    ImageDraw.Draw(alpha).rectangle(picture.within(12, 12), fill=0)
    return alpha


FAULTS.update({
    "a hole": seen_through(hole),
    "half seen through": seen_through(lambda alpha, picture: alpha.point(lambda v: v // 2)),
    "fading": seen_through(lambda alpha, picture: Image.linear_gradient("L").resize(alpha.size)),
    "nothing to be seen": seen_through(lambda alpha, picture: alpha.point(lambda v: 0)),
})


def saved(**how):
    return lambda picture: picture.how.update(how)


def noted(picture):
    info = PngImagePlugin.PngInfo()
    info.add_text("Author", "Ines Okoro")
    info.add_itxt("Comment", "of the fen", "en")
    picture.how["pnginfo"] = info


SAME = {
    "png": {
        "saved again": saved(), "as small as can be": saved(optimize=True), "not packed": saved(compress_level=0), "packed hard": saved(compress_level=9),
        "packed by runs": saved(compress_type=3), "packed by letters": saved(compress_type=2), "noted": noted,
        "with cover": lambda picture: picture.image.putalpha(255),
    },
    "jpeg": {},
    "webp": {},
    "tiff": {
        "saved again": saved(), "not packed": saved(compression=None), "packed": saved(compression="tiff_deflate"), "packed by bytes": saved(compression="packbits"),
        "noted": saved(description="of the fen", artist="Ines Okoro", software="by hand"),
    },
}

told([name for kind in BEST for name in write(kind, of(kind), FAULTS, SAME[kind])])
