"""What changes of pictures block by block share: files of any kind, profiles of colour, and metadata."""
import struct

from outsider import Cannot


class File:
    def __init__(self, rnd):
        self.rnd = rnd
        self.after = b""

    def pick(self, things):
        things = list(things)
        if not things:
            raise Cannot
        return self.rnd.choice(things)


def swapped_primaries(profile):
    """A profile in which red means green, and green red (ICC.1, 9.2)."""
    data = bytearray(profile)
    tags = {bytes(data[132 + 12 * i:136 + 12 * i]): 136 + 12 * i for i in range(struct.unpack(">I", data[128:132])[0])}
    a, b = tags[b"rXYZ"], tags[b"gXYZ"]
    data[a:a + 8], data[b:b + 8] = data[b:b + 8], data[a:a + 8]
    return bytes(data)


def camera(order="<"):
    """Metadata of a camera that say nothing of how it looks: who made it (Exif 2.3, 4.6.4)."""
    mark = b"II*\0" if order == "<" else b"MM\0*"
    return mark + struct.pack(order + "IHHHIIHHIII", 8, 2, 0x010F, 2, 9, 38, 0x013B, 2, 12, 48, 0) + b"Lantern \0\0" + b"Ines Okoro\0\0"


def exif(orientation, order="<"):
    """Metadata that say how a picture is to be turned (Exif 2.3, 4.6.4)."""
    mark = b"II*\0" if order == "<" else b"MM\0*"
    return mark + struct.pack(order + "IHHHIHHI", 8, 1, 0x0112, 3, 1, orientation, 0, 0)
