"""Changes of PNG (third edition), block by block: what shows, and what does not."""
import struct
import zlib

from outsider import Cannot
from picture_file import camera, exif, File, swapped_primaries


class Png(File):
    def __init__(self, rnd):
        super().__init__(rnd)
        data = open("a.png", "rb").read()
        self.chunks, at = [], 8
        while at < len(data):
            size, kind = struct.unpack(">I4s", data[at:at + 8])
            self.chunks.append([kind, data[at + 8:at + 8 + size]])
            at += 12 + size
        self.wrong = None
        self.width, self.height, self.depth, self.colour = struct.unpack(">IIBB", self.get(b"IHDR")[:10])

    def get(self, kind):
        found = [one for one in self.chunks if one[0] == kind]
        if not found:
            raise Cannot
        return found[0][1]

    def drop(self, kind):
        self.chunks = [one for one in self.chunks if one[0] != kind]

    def put(self, kind, data, before=b"IDAT"):
        at = next(i for i, one in enumerate(self.chunks) if one[0] == before)
        self.chunks.insert(at, [kind, data])

    @property
    def step(self):
        return {0: 1, 2: 3, 4: 2, 6: 4}[self.colour] * self.depth // 8

    def rows(self):
        """Rows without filters (9.2)."""
        raw = zlib.decompress(b"".join(data for kind, data in self.chunks if kind == b"IDAT"))
        step, wide = self.step, self.step * self.width
        before, out = bytearray(wide), []
        for y in range(self.height):
            at = y * (wide + 1)
            how, row = raw[at], bytearray(raw[at + 1:at + 1 + wide])
            for i in range(wide):
                a, b, c = row[i - step] if i >= step else 0, before[i], before[i - step] if i >= step else 0
                if how == 1:
                    row[i] = (row[i] + a) & 255
                elif how == 2:
                    row[i] = (row[i] + b) & 255
                elif how == 3:
                    row[i] = (row[i] + (a + b) // 2) & 255
                elif how == 4:
                    p = a + b - c
                    near = min((abs(p - a), 0, a), (abs(p - b), 1, b), (abs(p - c), 2, c))[2]
                    row[i] = (row[i] + near) & 255
            out.append(row)
            before = row
        return out

    def set_rows(self, rows, filters=(0,), level=6, parts=1):
        step, out, before = self.step, bytearray(), bytearray(len(rows[0]))
        for y, row in enumerate(rows):
            how = filters[y % len(filters)]
            line = bytearray(row)
            for i in range(len(row)):
                a, b = row[i - step] if i >= step else 0, before[i]
                line[i] = (row[i] - {0: 0, 1: a, 2: b, 3: (a + b) // 2}[how]) & 255
            out += bytes([how]) + line
            before = row
        data = zlib.compress(bytes(out), level)
        at = next(i for i, one in enumerate(self.chunks) if one[0] == b"IDAT")
        self.drop(b"IDAT")
        size = -(-len(data) // parts)
        for k in range(parts):
            self.chunks.insert(at + k, [b"IDAT", data[k * size:(k + 1) * size]])

    def head(self, width=None, height=None, colour=None):
        data = bytearray(self.get(b"IHDR"))
        self.width, self.height, self.colour = width or self.width, height or self.height, self.colour if colour is None else colour
        data[:10] = struct.pack(">IIBB", self.width, self.height, self.depth, self.colour)
        next(one for one in self.chunks if one[0] == b"IHDR")[1] = bytes(data)

    def bytes(self):
        out = b"\x89PNG\r\n\x1a\n"
        for kind, data in self.chunks:
            crc = zlib.crc32(kind + data) ^ (1 if kind == self.wrong else 0)
            out += struct.pack(">I", len(data)) + kind + data + struct.pack(">I", crc)
        return out + self.after


def png_pixels(change):
    def act(png):
        rows = png.rows()
        change(png, rows, png.rnd)
        png.set_rows(rows)
    return act


def at_random(png, rnd):
    return rnd.randrange(png.height), rnd.randrange(png.width) * png.step


def one_dot(png, rows, rnd):
    y, x = at_random(png, rnd)
    for k in range(3):
        rows[y][x + k] = (rows[y][x + k] + 128) & 255


def few_dots(png, rows, rnd):
    y, x = min(rnd.randrange(png.height), png.height - 3), min(rnd.randrange(png.width), png.width - 3) * png.step
    for dy in range(3):
        for i in range(3 * png.step):
            if i % png.step < 3:
                rows[y + dy][x + i] = max(0, rows[y + dy][x + i] - 24) if rows[y + dy][x + i] > 24 else rows[y + dy][x + i] + 24


def each_byte(of):
    def change(png, rows, rnd):
        for row in rows:
            for i in range(len(row)):
                if i % png.step < 3:
                    row[i] = of(row[i], i % png.step)
    return change


def parts_exchanged(png, rows, rnd):
    for row in rows:
        for i in range(0, len(row), png.step):
            row[i], row[i + 2] = row[i + 2], row[i]


def row_gone(png, rows, rnd):
    y = rnd.randrange(10, png.height - 10)
    rows[y:] = rows[y + 1:] + [rows[-1]]


def frames(png):
    """A second picture is shown after the first (APNG, as PNG's third edition has it, 11.3.6)."""
    def control(number):
        return struct.pack(">IIIIIHHBB", number, png.width, png.height, 0, 0, 1, 10, 0, 0)
    rows = [bytearray(255 - v for v in row) for row in png.rows()]
    other = zlib.compress(b"".join(b"\0" + bytes(row) for row in rows))
    png.put(b"acTL", struct.pack(">II", 2, 0))
    png.put(b"fcTL", control(0))
    png.put(b"fcTL", control(1), b"IEND")
    png.put(b"fdAT", struct.pack(">I", 2) + other, b"IEND")


def other_profile(png):
    data = png.get(b"iCCP")
    name, packed = data.split(b"\0", 1)
    next(one for one in png.chunks if one[0] == b"iCCP")[1] = name + b"\0\0" + zlib.compress(swapped_primaries(zlib.decompress(packed[1:])))


def without_profile(png):
    for kind in (b"iCCP", b"sRGB", b"gAMA", b"cHRM"):
        png.drop(kind)


def gamma(value):
    def act(png):
        without_profile(png)
        png.put(b"gAMA", struct.pack(">I", value))
    return act


def density(x, y=None, unit=1):
    def act(png):
        png.drop(b"pHYs")
        png.put(b"pHYs", struct.pack(">IIB", x, y or x, unit))
    return act


def wide_dots(png):
    x, y, unit = struct.unpack(">IIB", png.get(b"pHYs"))
    density(x * 2, y, unit)(png)


def with_cover(png):
    """Every dot covers in full: the same picture with one part more."""
    if png.colour != 2:
        raise Cannot
    rows = [bytearray(b"".join(bytes(row[i:i + 3]) + b"\xff" for i in range(0, len(row), 3))) for row in png.rows()]
    png.head(colour=6)
    png.set_rows(rows)


def uncovered(png):
    with_cover(png)
    rows = png.rows()
    y, x = png.rnd.randrange(png.height - 4), png.rnd.randrange(png.width - 4) * 4
    for dy in range(4):
        for k in range(4):
            rows[y + dy][x + 4 * k + 3] = 0
    png.set_rows(rows)


def laced(png):
    """Seven passes (8.1)."""
    rows, step, out = png.rows(), png.step, bytearray()
    for x0, y0, dx, dy in ((0, 0, 8, 8), (4, 0, 8, 8), (0, 4, 4, 8), (2, 0, 4, 4), (0, 2, 2, 4), (1, 0, 2, 2), (0, 1, 1, 2)):
        for y in range(y0, png.height, dy):
            if x0 < png.width:
                out += b"\0" + b"".join(bytes(rows[y][x * step:(x + 1) * step]) for x in range(x0, png.width, dx))
    head = bytearray(png.get(b"IHDR"))
    head[12] = 1
    next(one for one in png.chunks if one[0] == b"IHDR")[1] = bytes(head)
    at = next(i for i, one in enumerate(png.chunks) if one[0] == b"IDAT")
    png.drop(b"IDAT")
    png.chunks.insert(at, [b"IDAT", zlib.compress(bytes(out))])


def chunk(kind, data, before=b"IDAT"):
    return lambda png: png.put(kind, data, before)


PNG_FAULTS = {
    "one dot": png_pixels(one_dot),
    "nine dots a little": png_pixels(few_dots),
    "turned dark and light": png_pixels(each_byte(lambda v, k: 255 - v)),
    "lighter": png_pixels(each_byte(lambda v, k: min(255, v + 12))),
    "more red": png_pixels(each_byte(lambda v, k: min(255, v + 20) if k == 0 else v)),
    "fewer steps": png_pixels(each_byte(lambda v, k: v & 0xC0)),
    "parts exchanged": png_pixels(parts_exchanged),
    "mirrored": png_pixels(lambda png, rows, rnd: rows.__setitem__(slice(None), [bytearray(b"".join(bytes(row[i:i + png.step]) for i in range(len(row) - png.step, -1, -png.step))) for row in rows])),
    "upside down": png_pixels(lambda png, rows, rnd: rows.reverse()),
    "a row gone": png_pixels(row_gone),
    "a row twice": png_pixels(lambda png, rows, rnd: (lambda y: rows.__setitem__(slice(y, None), [rows[y]] + rows[y:-1]))(rnd.randrange(10, png.height - 10))),
    "a dot to the side": png_pixels(lambda png, rows, rnd: rows.__setitem__(slice(None), [row[-png.step:] + row[:-png.step] for row in rows])),
    "a row lower": lambda png: (lambda rows: (png.head(height=png.height - 1), png.set_rows(rows[1:])))(png.rows()),
    "cropped": lambda png: (lambda rows: (png.head(width=png.width - 1), png.set_rows([row[:-png.step] for row in rows])))(png.rows()),
    "dots uncovered": uncovered,
    "another profile": other_profile,
    "another gamma": gamma(100000),
    "another gamma a little": gamma(52000),
    "other primaries": lambda png: (gamma(45455)(png), png.put(b"cHRM", struct.pack(">8I", 31270, 32900, 30000, 60000, 64000, 33000, 15000, 6000))),
    "two sizes of dots": wide_dots,
    "twice as large": lambda png: (lambda p: density(p[0] // 2)(png))(struct.unpack(">IIB", png.get(b"pHYs"))),
    "a colour seen through": lambda png: png.put(b"tRNS", struct.pack(">3H", *png.rows()[20][60:63])) if png.colour == 2 else (_ for _ in ()).throw(Cannot),
    "turned by its metadata": chunk(b"eXIf", exif(3)),
    "laid on its side by its metadata": chunk(b"eXIf", exif(6, ">")),
    "mirrored by its metadata": chunk(b"eXIf", exif(2)),
    "moving": frames,
    "wider than it is": lambda png: png.head(width=png.width + 1),
    "higher than it is": lambda png: png.head(height=png.height + 40),
    "a chunk that must be known": chunk(b"OwNX", b"own"),
    "checked wrongly": lambda png: setattr(png, "wrong", b"IDAT"),
    "headed wrongly": lambda png: setattr(png, "wrong", b"IHDR"),
    "no end of the data": lambda png: next(one for one in png.chunks if one[0] == b"IDAT").__setitem__(1, png.get(b"IDAT")[: len(png.get(b"IDAT")) // 2]),
    "no data": lambda png: png.drop(b"IDAT"),
}
PNG_SAME = {
    "filtered by what is above": lambda png: png.set_rows(png.rows(), (2,)),
    "filtered by both": lambda png: png.set_rows(png.rows(), (3,)),
    "packed in haste": lambda png: png.set_rows(png.rows(), (1,), 1),
    "in a thousand parts": lambda png: png.set_rows(png.rows(), (0, 2), 6, 1000),
    "words in any letters": chunk(b"iTXt", b"Author\0\0\0cs\0\0" + "Žofie".encode()),
    "packed words in any letters": chunk(b"iTXt", b"Comment\0\1\0\0\0" + zlib.compress("東の沼".encode())),
    "words twice": lambda png: [png.put(b"tEXt", b"Comment\0" + text, b"IDAT") for text in (b"one", b"two")],
    "a camera": chunk(b"eXIf", camera()),
    "a camera, the other way": chunk(b"eXIf", camera(">")),
    "untouched": lambda png: None,
    "filtered otherwise": lambda png: png.set_rows(png.rows(), (0,)),
    "filtered by the left": lambda png: png.set_rows(png.rows(), (1,)),
    "filtered by turns": lambda png: png.set_rows(png.rows(), (0, 1, 2, 3)),
    "packed harder": lambda png: png.set_rows(png.rows(), (2,), 9),
    "not packed": lambda png: png.set_rows(png.rows(), (0,), 0),
    "in many parts": lambda png: png.set_rows(png.rows(), (1,), 6, 40),
    "laced": laced,
    "with cover": with_cover,
    "words": chunk(b"tEXt", b"Author\0Ines Okoro"),
    "packed words": chunk(b"zTXt", b"Comment\0\0" + zlib.compress(b"of the fen")),
    "words at the end": chunk(b"tEXt", b"Comment\0seen", b"IEND"),
    "a time": chunk(b"tIME", struct.pack(">HBBBBB", 2026, 11, 30, 10, 0, 0)),
    "a chunk of nobody": chunk(b"owNx", b"own"),
    "a suggested palette": chunk(b"sPLT", b"own\0\x08"),
    "bits that count": lambda png: png.put(b"sBIT", bytes([8] * png.step), b"IDAT") if not any(one[0] == b"iCCP" for one in png.chunks) else None,
    "standing upright": chunk(b"eXIf", exif(1)),
    "bytes after the end": lambda png: setattr(png, "after", b"\0" * 16),
    "no time, no words": lambda png: [png.drop(kind) for kind in (b"tIME", b"tEXt", b"zTXt")],
}
