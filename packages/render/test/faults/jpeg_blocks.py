"""Changes of JPEG (ITU-T T.81), block by block: what shows, and what does not."""
import struct

from outsider import Cannot
from picture_file import File, camera, exif, swapped_primaries


class Jpeg(File):
    def __init__(self, rnd):
        super().__init__(rnd)
        data = open("a.jpeg", "rb").read()
        self.segments, at = [], 2
        while True:
            mark, size = data[at + 1], struct.unpack(">H", data[at + 2:at + 4])[0]
            self.segments.append([mark, data[at + 4:at + 2 + size]])
            at += 2 + size
            if mark == 0xDA:
                break
        self.scan = data[at:]
        self.fill = b""

    def of(self, mark, begins=b""):
        found = [one for one in self.segments if one[0] == mark and one[1].startswith(begins)]
        if not found:
            raise Cannot
        return found[0]

    def put(self, mark, data, at=None):
        # What says that it is a picture of this kind stands first (JFIF 1.02).
        self.segments.insert(1 if at is None else at, [mark, data])

    def bytes(self):
        out = b"\xff\xd8"
        for mark, data in self.segments:
            out += self.fill + b"\xff" + bytes([mark]) + struct.pack(">H", len(data) + 2) + data
        return out + self.scan + self.after


def jpeg_tables(change):
    def act(jpeg):
        for one in jpeg.segments:
            if one[0] == 0xDB:
                data = bytearray(one[1])
                for i in range(len(data)):
                    if i % 65:
                        data[i] = change(data[i], i % 65)
                one[1] = bytes(data)
    return act


def jfif(units, x, y):
    def act(jpeg):
        one = jpeg.of(0xE0, b"JFIF\0")
        one[1] = one[1][:7] + struct.pack(">BHH", units, x, y) + one[1][12:]
    return act


def jpeg_profile(jpeg):
    one = jpeg.of(0xE2, b"ICC_PROFILE\0")
    one[1] = one[1][:14] + swapped_primaries(one[1][14:])


def frame(change):
    def act(jpeg):
        one = next(one for one in jpeg.segments if one[0] in (0xC0, 0xC1, 0xC2))
        data = bytearray(one[1])
        change(data)
        one[1] = bytes(data)
    return act


def scan_bits(jpeg):
    """A bit in each of twelve bytes: one alone may change a block by less than one sees."""
    at = jpeg.rnd.randrange(len(jpeg.scan) // 4, len(jpeg.scan) * 3 // 4)
    data = bytearray(jpeg.scan)
    for i in range(at, at + 12):
        if data[i] not in (0xFF, 0, 0xFB) and data[i - 1] != 0xFF:
            data[i] ^= 4
    jpeg.scan = bytes(data)


def density_of(jpeg):
    return struct.unpack(">BHH", jpeg.of(0xE0, b"JFIF\0")[1][7:12])


JPEG_FAULTS = {
    "coarser": jpeg_tables(lambda v, i: min(255, v * 2)),
    "lighter": jpeg_tables(lambda v, i: min(255, v + 4) if i == 1 else v),
    "without detail": jpeg_tables(lambda v, i: v if i < 8 else 1),
    "bits of the scan": scan_bits,
    "half a scan": lambda jpeg: setattr(jpeg, "scan", jpeg.scan[: len(jpeg.scan) // 2] + b"\xff\xd9"),
    "no end": lambda jpeg: setattr(jpeg, "scan", jpeg.scan[: len(jpeg.scan) * 2 // 3]),
    "lower": frame(lambda data: data.__setitem__(slice(1, 3), struct.pack(">H", struct.unpack(">H", data[1:3])[0] - 16))),
    "wider": frame(lambda data: data.__setitem__(slice(3, 5), struct.pack(">H", struct.unpack(">H", data[3:5])[0] + 16))),
    "parts called otherwise": lambda jpeg: jpeg.put(0xEE, b"Adobe\0\x64\0\0\0\0\0"),  # term-guard: standard (ISO/IEC 10918-6, 6.5.3)
    "turned by its metadata": lambda jpeg: jpeg.put(0xE1, b"Exif\0\0" + exif(3)),
    "on its side by its metadata": lambda jpeg: jpeg.put(0xE1, b"Exif\0\0" + exif(8, ">")),
    "another profile": jpeg_profile,
    "twice as large": lambda jpeg: (lambda d: jfif(d[0], d[1] // 2, d[2] // 2)(jpeg))(density_of(jpeg)),
    "wide dots": lambda jpeg: (lambda d: jfif(d[0], d[1], d[2] // 2)(jpeg))(density_of(jpeg)),
    "of no size": lambda jpeg: jfif(0, 1, 1)(jpeg),
    "colours of other tables": frame(lambda data: data.__setitem__(slice(7, 9), bytes([data[7], 0x44]))),
    "tables exchanged": frame(lambda data: (data.__setitem__(8, 1), data.__setitem__(11, 0))),
    "parts exchanged": lambda jpeg: (lambda one: one.__setitem__(1, one[1][:1] + one[1][1:2] + one[1][2:3] + one[1][5:6] + one[1][4:5] + one[1][3:4] + one[1][6:]))(jpeg.of(0xDA)),
}
def in_one(mark):
    """Tables of one kind may share a segment, or have one each (B.2.4)."""
    def act(jpeg):
        own = [one for one in jpeg.segments if one[0] == mark]
        if len(own) < 2:
            raise Cannot
        own[0][1] = b"".join(data for _, data in own)
        for one in own[1:]:
            jpeg.segments.remove(one)
    return act


def turned_round(mark):
    def act(jpeg):
        places = [i for i, one in enumerate(jpeg.segments) if one[0] == mark]
        if len(places) < 2:
            raise Cannot
        own = [jpeg.segments[i] for i in places]
        for i, one in zip(places, reversed(own)):
            jpeg.segments[i] = one
    return act


def wide_steps(jpeg):
    """Steps in two bytes each, of the same worth; a frame for them is not the baseline one (B.2.4.1)."""
    for one in jpeg.segments:
        if one[0] == 0xDB:
            out = b""
            for at in range(0, len(one[1]), 65):
                out += bytes([0x10 | one[1][at] & 15]) + b"".join(struct.pack(">H", v) for v in one[1][at + 1:at + 65])
            one[1] = out
        if one[0] == 0xC0:
            one[0] = 0xC1


def steps_by_other_names(jpeg):
    for one in jpeg.segments:
        if one[0] == 0xDB:
            data = bytearray(one[1])
            for at in range(0, len(data), 65):
                data[at] ^= 2
            one[1] = bytes(data)
        if one[0] in (0xC0, 0xC1, 0xC2):
            data = bytearray(one[1])
            for at in range(6, len(data), 3):
                data[at + 2] ^= 2
            one[1] = bytes(data)


def parts_by_other_names(jpeg):
    """What the parts of a colour are called is free, where it is not the letters of other colours (T.871)."""
    for one in jpeg.segments:
        if one[0] in (0xC0, 0xC1, 0xC2):
            data = bytearray(one[1])
            for at in range(6, len(data), 3):
                data[at] += 20
            one[1] = bytes(data)
        if one[0] == 0xDA:
            data = bytearray(one[1])
            for k in range(data[0]):
                data[1 + 2 * k] += 20
            one[1] = bytes(data)


def kind_of_frame(jpeg):
    jpeg.of(0xC0)[0] = 0xC1


def before_scan(mark):
    def act(jpeg):
        own = [one for one in jpeg.segments if one[0] == mark]
        if not own:
            raise Cannot
        jpeg.segments = [one for one in jpeg.segments if one[0] != mark]
        jpeg.segments[-1:-1] = own
    return act


def version(minor):
    def act(jpeg):
        one = jpeg.of(0xE0, b"JFIF\0")
        one[1] = one[1][:6] + bytes([minor]) + one[1][7:]
    return act


def small_picture(jpeg):
    """A picture of one dot, for lists of files (T.871, 10.1)."""
    one = jpeg.of(0xE0, b"JFIF\0")
    one[1] = one[1][:12] + b"\1\1\x80\x40\x20"


JPEG_SAME = {
    "a remark of all bytes": lambda jpeg: jpeg.put(0xFE, bytes(range(256))),
    "a long remark": lambda jpeg: jpeg.put(0xFE, b"fen " * 16000),
    "an earlier version, and a remark": lambda jpeg: (version(1)(jpeg), jpeg.put(0xFE, b"seen")),
    "steps in one": in_one(0xDB),
    "codes in one": in_one(0xC4),
    "steps the other way round": turned_round(0xDB),
    "codes the other way round": turned_round(0xC4),
    "steps in two bytes": wide_steps,
    "steps by other names": steps_by_other_names,
    "parts by other names": parts_by_other_names,
    "another kind of frame": kind_of_frame,
    "steps just before": before_scan(0xDB),
    "codes just before": before_scan(0xC4),
    "an earlier version": version(1),
    "a version between": version(0),
    "a small picture beside": small_picture,
    "a camera": lambda jpeg: jpeg.put(0xE1, b"Exif\0\0" + camera()),
    "a camera, the other way": lambda jpeg: jpeg.put(0xE1, b"Exif\0\0" + camera(">")),
    "a remark of nothing": lambda jpeg: jpeg.put(0xFE, b""),
    "a remark at the end": lambda jpeg: jpeg.put(0xFE, b"seen", len(jpeg.segments) - 1),
    "starts anew never": lambda jpeg: jpeg.put(0xDD, b"\0\0", len(jpeg.segments) - 1),
    "untouched": lambda jpeg: None,
    "a remark": lambda jpeg: jpeg.put(0xFE, b"of the fen"),
    "many remarks": lambda jpeg: [jpeg.put(0xFE, b"of the fen %d" % i) for i in range(9)],
    "standing upright": lambda jpeg: jpeg.put(0xE1, b"Exif\0\0" + exif(1)),
    "bytes between": lambda jpeg: setattr(jpeg, "fill", b"\xff\xff"),
    "bytes after the end": lambda jpeg: setattr(jpeg, "after", b"\0" * 24),
    "as its parts are called": lambda jpeg: jpeg.put(0xEE, b"Adobe\0\x64\0\0\0\0\x01"),  # term-guard: standard (ISO/IEC 10918-6, 6.5.3)
    "tables one by one": lambda jpeg: jpeg.segments.__setitem__(slice(None), [part for mark, data in jpeg.segments for part in ([[mark, data[i:i + 65]] for i in range(0, len(data), 65)] if mark == 0xDB and len(data) % 65 == 0 else [[mark, data]])]),
}
