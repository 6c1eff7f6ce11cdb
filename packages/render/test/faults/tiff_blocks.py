"""Changes of TIFF 6.0, block by block: what shows, and what does not."""
import struct
import zlib

from outsider import Cannot
from picture_file import File, swapped_primaries


SIZES = {1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8}
LETTERS = {1: "B", 3: "H", 4: "I", 6: "b", 8: "h", 9: "i", 11: "f", 12: "d"}


class Tiff(File):
    """Values of tags are kept as numbers, so that a file can be written in either order of bytes."""

    def __init__(self, rnd):
        super().__init__(rnd)
        data = open("a.tiff", "rb").read()
        order = "<" if data[:2] == b"II" else ">"
        at = struct.unpack(order + "I", data[4:8])[0]
        self.tags = {}
        for i in range(struct.unpack(order + "H", data[at:at + 2])[0]):
            tag, kind, count = struct.unpack(order + "HHI", data[at + 2 + 12 * i:at + 10 + 12 * i])
            where = at + 10 + 12 * i
            if SIZES[kind] * count > 4:
                where = struct.unpack(order + "I", data[where:where + 4])[0]
            raw = data[where:where + SIZES[kind] * count]
            if kind in (5, 10):
                self.tags[tag] = (kind, list(struct.unpack(order + str(2 * count) + ("I" if kind == 5 else "i"), raw)))
            elif kind in LETTERS:
                self.tags[tag] = (kind, list(struct.unpack(order + str(count) + LETTERS[kind], raw)))
            else:
                self.tags[tag] = (kind, raw)
        self.order = order
        self.strips = [data[a:a + n] for a, n in zip(self.tags[273][1], self.tags[279][1])]
        self.second = None
        self.gap = 0

    def set(self, tag, kind, *values):
        self.tags[tag] = (kind, values[0] if isinstance(values[0], bytes) else list(values))

    def value(self, tag):
        if tag not in self.tags:
            raise Cannot
        return self.tags[tag][1]

    def directory(self, tags, at, following):
        """Entries, and behind them what they do not hold themselves."""
        order, entries, beyond = self.order, b"", b""
        behind = at + 2 + 12 * len(tags) + 4
        for tag in sorted(tags):
            kind, values = tags[tag]
            if isinstance(values, bytes):
                raw, count = values, len(values)
            elif kind in (5, 10):
                raw, count = struct.pack(order + str(len(values)) + ("I" if kind == 5 else "i"), *values), len(values) // 2
            else:
                raw, count = struct.pack(order + str(len(values)) + LETTERS[kind], *values), len(values)
            if len(raw) > 4:
                place = struct.pack(order + "I", behind + len(beyond))
                beyond += raw + b"\0" * (len(raw) % 2)
            else:
                place = raw.ljust(4, b"\0")
            entries += struct.pack(order + "HHI", tag, kind, count) + place
        return struct.pack(order + "H", len(tags)) + entries + struct.pack(order + "I", following) + beyond

    def bytes(self):
        places, out = [], bytearray(8 + self.gap)
        for strip in self.strips:
            places.append(len(out))
            out += strip + b"\0" * (len(strip) % 2)
        tags = {**self.tags, 273: (4, places), 279: (4, [len(s) for s in self.strips])}
        at = len(out)
        one = self.directory(tags, at, 0)
        if self.second:
            one = self.directory(tags, at, at + len(one))
            one += self.directory({**tags, **self.second}, at + len(one), 0)
        out[:8] = (b"II*\0" if self.order == "<" else b"MM\0*") + struct.pack(self.order + "I", at)
        return bytes(out) + one + self.after


def tag(number, kind, *values):
    return lambda tiff: tiff.set(number, kind, *values)


def ratio(number, change):
    def act(tiff):
        kind, values = tiff.tags[number]
        tiff.tags[number] = (kind, [values[0] * change[0], values[1] * change[1]])
    return act


def both(*changes):
    return lambda tiff: [change(tiff) for change in changes]


def tiff_profile(tiff):
    kind, data = tiff.tags.get(34675, (None, None))
    if data is None:
        raise Cannot
    tiff.tags[34675] = (kind, swapped_primaries(bytes(data)))


def strips_exchanged(tiff):
    if len(tiff.strips) < 2:
        raise Cannot
    tiff.strips[0], tiff.strips[1] = tiff.strips[1], tiff.strips[0]


def loose(tiff, i):
    """A strip as its values, whether it was packed or not (LZW is left as it is)."""
    if tiff.value(259)[0] in (8, 32946):
        return zlib.decompress(tiff.strips[i])
    if tiff.value(259)[0] == 1:
        return tiff.strips[i]
    raise Cannot


def tiff_values(change):
    def act(tiff):
        i = tiff.rnd.randrange(len(tiff.strips))
        data = bytearray(loose(tiff, i))
        change(tiff, data)
        tiff.strips[i] = zlib.compress(bytes(data)) if tiff.value(259)[0] in (8, 32946) else bytes(data)
    return act


def one_value(tiff, data):
    """Of two bytes the one that counts."""
    wide = tiff.value(258)[0] == 16
    at = tiff.rnd.randrange(len(data))
    data[at // 2 * 2 + (tiff.order == "<") if wide else at] ^= 0x60


def other_order(tiff):
    """Numbers of more than one byte are turned round, those of dots as well."""
    if tiff.value(258)[0] != 8:
        raise Cannot
    tiff.order = ">" if tiff.order == "<" else "<"


def repacked(tiff):
    tiff.strips = [zlib.compress(loose(tiff, i), 9) for i in range(len(tiff.strips))]
    if tiff.value(259)[0] == 1:
        tiff.set(259, 3, 8)


def unpacked(tiff):
    """What was told as differences from the left (section 14) stands as it is."""
    foretold = tiff.tags.get(317, (3, [1]))[1][0] == 2
    parts, letter = len(tiff.value(258)), tiff.order + ("H" if tiff.value(258)[0] == 16 else "B")
    wide = tiff.value(256)[0] * parts
    strips = [loose(tiff, i) for i in range(len(tiff.strips))]
    for k, strip in enumerate(strips if foretold else []):
        size = struct.calcsize(letter)
        values = list(struct.unpack(letter[0] + str(len(strip) // size) + letter[1], strip))
        for i in range(len(values)):
            if i % wide >= parts:
                values[i] = (values[i] + values[i - parts]) & (256 ** size - 1)
        strips[k] = struct.pack(letter[0] + str(len(values)) + letter[1], *values)
    tiff.strips = strips
    tiff.set(259, 3, 1)
    tiff.set(317, 3, 1)


def row_size(tiff):
    bits = tiff.value(258)[0]
    return tiff.value(256)[0] * len(tiff.value(258)) * bits // 8


def by_rows(count):
    """Strips of so many rows each; 0: all rows in one."""
    def act(tiff):
        unpacked(tiff)
        data = b"".join(tiff.strips)
        rows = count or tiff.value(257)[0]
        size = rows * row_size(tiff)
        tiff.strips = [data[at:at + size] for at in range(0, len(data), size)]
        tiff.set(278, 4, rows)
    return act


def runs(row):
    """A row by PackBits (section 9), as what stands alone: 128 at most."""
    return b"".join(bytes([len(row[at:at + 128]) - 1]) + row[at:at + 128] for at in range(0, len(row), 128))


def packed_by_runs(tiff):
    unpacked(tiff)
    size = row_size(tiff)
    tiff.strips = [b"".join(runs(strip[at:at + size]) for at in range(0, len(strip), size)) for strip in tiff.strips]
    tiff.set(259, 3, 32773)


def in_short(number):
    """A number of two bytes instead of four (section 2)."""
    def act(tiff):
        kind, values = tiff.tags.get(number, (0, [1 << 20]))
        if max(values) > 65535:
            raise Cannot
        tiff.set(number, 4 if kind == 3 else 3, *values)
    return act


TIFF_FAULTS = {
    "one value": tiff_values(one_value),
    "all values of a strip": tiff_values(lambda tiff, data: data.__setitem__(slice(None), bytes(v ^ 0x10 for v in data))),
    "strips exchanged": strips_exchanged,
    "turned": tag(274, 3, 3),
    "on its side": tag(274, 3, 6),
    "mirrored": tag(274, 3, 2),
    "twice as large": both(ratio(282, (1, 2)), ratio(283, (1, 2))),
    "wide dots": ratio(282, (2, 1)),
    "in centimetres": tag(296, 3, 3),
    "in no unit": tag(296, 3, 1),
    "other parts": tag(262, 3, 6),
    "numbers with signs": lambda tiff: tiff.set(339, 3, *([2] * len(tiff.value(258)))),
    "a second picture": lambda tiff: setattr(tiff, "second", {254: (4, [0])}),
    "a second page": lambda tiff: (tiff.set(254, 4, 2), tiff.set(297, 3, 0, 2), setattr(tiff, "second", {297: (3, [1, 2])})),
    "another profile": tiff_profile,
    "lower": lambda tiff: tiff.set(257, 4, tiff.value(257)[0] - 1),
    "wider": lambda tiff: tiff.set(256, 4, tiff.value(256)[0] + 1),
    "packed otherwise": tag(259, 3, 32773),
    "parts one by one": tag(284, 3, 2),
    "foretold otherwise": lambda tiff: tiff.set(317, 3, 1 if tiff.tags.get(317, (3, [1]))[1][0] == 2 else 2),
    "no strips": lambda tiff: setattr(tiff, "strips", tiff.strips[:-1]),
    "half of it": lambda tiff: tiff.strips.__setitem__(0, tiff.strips[0][: len(tiff.strips[0]) // 2]),
}
TIFF_SAME = {
    "a strip a row": by_rows(1),
    "seven rows a strip": by_rows(7),
    "all in one strip": by_rows(0),
    "packed by runs": packed_by_runs,
    "packed by runs, a row a strip": both(by_rows(1), packed_by_runs),
    "bytes the other way, all in one strip": both(other_order, by_rows(0)),
    "its width in another kind of number": in_short(256),
    "its height in another kind of number": in_short(257),
    "its rows in another kind of number": in_short(278),
    "of which paper": tag(269, 2, b"leaflet\0"),
    "by which camera": both(tag(271, 2, b"Lantern\0"), tag(272, 2, b"17\0")),
    "on which page": tag(285, 2, b"cover\0"),
    "the first page of one": tag(297, 3, 0, 1),
    "on which machine": tag(316, 2, b"by the window\0"),
    "whose it is": tag(33432, 2, b"Ines Okoro\0"),
    "parts together": tag(284, 3, 1),
    "untouched": lambda tiff: None,
    "bytes the other way": other_order,
    "packed harder": repacked,
    "not packed": unpacked,
    "room before": lambda tiff: setattr(tiff, "gap", 64),
    "who made it": tag(315, 2, b"Ines Okoro\0"),
    "what it is": tag(270, 2, b"of the fen\0"),
    "by which program": tag(305, 2, b"by hand\0"),
    "when": tag(306, 2, b"2026:11:30 10:00:00\0"),
    "upright": tag(274, 3, 1),
    "the whole of it": tag(254, 4, 0),
    "bytes after the end": lambda tiff: setattr(tiff, "after", b"\0" * 24),
}
