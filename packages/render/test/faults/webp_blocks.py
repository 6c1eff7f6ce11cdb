"""Changes of WebP (RFC 9649), block by block: what shows, and what does not."""
import io
import struct

from outsider import Cannot
from picture_file import File, camera, exif, swapped_primaries


class Webp(File):
    def __init__(self, rnd):
        super().__init__(rnd)
        data = open("a.webp", "rb").read()
        self.chunks, at = [], 12
        while at < len(data):
            kind, size = struct.unpack("<4sI", data[at:at + 8])
            self.chunks.append([kind, data[at + 8:at + 8 + size]])
            at += 8 + size + size % 2

    def of(self, kind):
        found = [one for one in self.chunks if one[0] == kind]
        if not found:
            raise Cannot
        return found[0]

    def extended(self, flag):
        one = self.of(b"VP8X")
        one[1] = bytes([one[1][0] | flag]) + one[1][1:]

    def bytes(self):
        body = b"WEBP" + b"".join(kind + struct.pack("<I", len(data)) + data + b"\0" * (len(data) % 2) for kind, data in self.chunks)
        return b"RIFF" + struct.pack("<I", len(body)) + body + self.after


def webp_exif(orientation):
    def act(webp):
        webp.extended(0x08)
        webp.chunks.append([b"EXIF", exif(orientation)])
    return act


def webp_profile(webp):
    one = webp.of(b"ICCP")
    one[1] = swapped_primaries(one[1])


def webp_bit(webp):
    one = webp.pick(one for one in webp.chunks if one[0] in (b"VP8 ", b"VP8L"))
    at = webp.rnd.randrange(len(one[1]) // 3, len(one[1]) * 2 // 3)
    one[1] = one[1][:at] + bytes([one[1][at] ^ 16]) + one[1][at + 1:]


def webp_frames(webp):
    """Shown for a moment, then moved (2.7.1.1)."""
    webp.extended(0x02)
    size = webp.of(b"VP8X")[1][4:10]
    picture = webp.pick(one for one in webp.chunks if one[0] in (b"VP8 ", b"VP8L"))
    inner = picture[0] + struct.pack("<I", len(picture[1])) + picture[1] + b"\0" * (len(picture[1]) % 2)
    at = webp.chunks.index(picture)
    webp.chunks[at:at + 1] = [[b"ANIM", struct.pack("<IH", 0, 0)]] + [[b"ANMF", struct.pack("<I", x)[:3] + b"\0\0\0" + size + b"\x64\0\0\0" + inner] for x in (0, 20)]


WEBP_FAULTS = {
    "turned by its metadata": webp_exif(3),
    "on its side by its metadata": webp_exif(6),
    "another profile": webp_profile,
    "a bit": webp_bit,
    "moving": webp_frames,
    "half of it": lambda webp: (lambda one: one.__setitem__(1, one[1][: len(one[1]) // 2]))(webp.pick(one for one in webp.chunks if one[0] in (b"VP8 ", b"VP8L"))),
    "no picture": lambda webp: webp.chunks.remove(webp.pick(one for one in webp.chunks if one[0] in (b"VP8 ", b"VP8L"))),
    "a larger frame": lambda webp: (lambda one: one.__setitem__(1, one[1][:4] + struct.pack("<I", struct.unpack("<I", one[1][4:7] + b"\0")[0] + 20)[:3] + one[1][7:]))(webp.of(b"VP8X")),
}
def webp_anew(method, quality):
    """The same dots, packed anew without loss by another library; what stands beside them stays."""
    def act(webp):
        from PIL import Image
        dots, out = Image.open("a.webp"), io.BytesIO()
        dots.load()
        dots.save(out, "WEBP", lossless=True, exact=True, method=method, quality=quality, icc_profile=b"", exif=b"")
        saved, at = out.getvalue(), 12
        while saved[at:at + 4] != b"VP8L":
            at += 8 + struct.unpack("<I", saved[at + 4:at + 8])[0] + 1 & ~1
        size = struct.unpack("<I", saved[at + 4:at + 8])[0]
        picture = webp.pick(one for one in webp.chunks if one[0] in (b"VP8 ", b"VP8L"))
        picture[:] = [b"VP8L", saved[at + 8:at + 8 + size]]
        webp.chunks = [one for one in webp.chunks if one[0] != b"ALPH"]
    return act


def webp_metadata(data):
    def act(webp):
        webp.extended(0x08)
        webp.chunks.append([b"EXIF", data])
    return act


def webp_first(kind):
    """What is said about it may stand in any order behind the picture (2.7)."""
    def act(webp):
        one = webp.of(kind)
        webp.chunks.remove(one)
        webp.chunks.append(one)
    return act


WEBP_SAME = {
    **{f"packed anew, {method} and {quality}": webp_anew(method, quality) for method in (0, 1, 2, 3, 4, 5, 6) for quality in (0, 50, 100)},
    "a camera": webp_metadata(camera()),
    "a camera, the other way": webp_metadata(camera(">")),
    "standing upright, the other way": webp_metadata(exif(1, ">")),
    "words at the end": webp_first(b"XMP "),
    "untouched": lambda webp: None,
    "standing upright": webp_exif(1),
    "bytes after the end": lambda webp: setattr(webp, "after", b"\0" * 24),
}
