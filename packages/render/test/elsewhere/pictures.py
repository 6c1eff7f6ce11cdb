"""Pictures as other programs write them, by PIL and by hand: what each shows lies beside it as plain bytes of red, green and blue.

Use: pictures.py SEED, in an empty folder. Each file NAME has NAME.rgb: width and height as 32 bits, then its pixels."""
import struct, sys, zlib
import numpy as np
from PIL import Image

seed = int(sys.argv[1])
rng = np.random.default_rng(seed)
W, H = int(rng.integers(20, 120)), int(rng.integers(20, 90))
y, x = np.mgrid[0:H, 0:W]
a, b, c = rng.uniform(1, 3, 3)
rgb = (np.stack([x * a, y * b, (x + y) * c], -1) + rng.integers(0, 30, (H, W, 1))).clip(0, 255).astype(np.uint8)
im = Image.fromarray(rgb)
grey = rgb[..., 0]


def says(name, pixels):
    pixels = np.asarray(pixels)
    if pixels.ndim == 2:
        pixels = np.stack([pixels] * 3, -1)
    with open(name + '.rgb', 'wb') as f:
        f.write(struct.pack('<II', pixels.shape[1], pixels.shape[0]) + pixels.astype(np.uint8).tobytes())


def pil(name, image, **how):
    image.save(name, **how)
    says(name, Image.open(name).convert('RGB'))


for ppi in (72, 96, 150, 300):
    for kind in ('jpg', 'png', 'tif', 'bmp'):
        pil(f'stated{ppi}.{kind}', im, dpi=(ppi, ppi))
for kind in ('jpg', 'png', 'webp'):
    pil(f'unstated.{kind}', im, **({'lossless': True} if kind == 'webp' else {}))
for kind in ('jpg', 'png', 'tif'):
    pil(f'oblong.{kind}', im, dpi=(300, 150))
for colours in (2, 7, 16, 64, 255):
    for kind in ('bmp', 'png', 'tif', 'gif'):
        pil(f'palette{colours}.{kind}', im.quantize(colours))
for mode in ('1', 'L'):
    for kind in ('bmp', 'png', 'tif'):
        pil(f'mode{mode}.{kind}', im.convert(mode))
pil('opacity.bmp', im.convert('RGBA'))
for packing in ('tiff_lzw', 'tiff_deflate', 'packbits'):
    pil(f'{packing}.tif', im, compression=packing)
pil('group4.tif', im.convert('1'), compression='group4')
pil('progressive.jpg', im, progressive=True)
pil('sixteen.png', Image.fromarray(grey.astype(np.uint16) * 257))
says('sixteen.png', grey)


def runs(name, bits):
    """Runs of 8 and of 4 bits, with jumps and ends of rows."""
    small = im.quantize(1 << bits if bits == 4 else 90)
    palette = (small.getpalette() + [0] * 768)[: 3 << bits]
    indexes = np.array(small)
    out = b''
    for row in indexes[::-1]:
        i = 0
        while i < len(row):
            n = 1
            while i + n < len(row) and n < 255 and row[i + n] == row[i]:
                n += 1
            left = len(row) - i
            if n == 1 and left >= 4:
                k = min(int(rng.integers(3, 12)), left)
                some = row[i : i + k]
                if bits == 8:
                    body = bytes(some)
                else:
                    body = bytes((int(some[j]) << 4) | (int(some[j + 1]) if j + 1 < k else 0) for j in range(0, k, 2))
                out += bytes([0, k]) + body + b'\0' * (len(body) % 2)
                i += k
            else:
                out += bytes([n, int(row[i]) if bits == 8 else int(row[i]) * 17])
                i += n
        out += b'\0\0'
    out += b'\0\1'
    colours = b''.join(bytes([palette[3 * k + 2], palette[3 * k + 1], palette[3 * k], 0]) for k in range(1 << bits))
    start = 14 + 40 + len(colours)
    head = struct.pack('<IiiHHIIiiII', 40, W, H, 1, bits, 1 if bits == 8 else 2, len(out), 11811, 11811, 1 << bits, 0)
    with open(name, 'wb') as f:
        f.write(b'BM' + struct.pack('<IHHI', start + len(out), 0, 0, start) + head + colours + out)
    says(name, np.array(palette).reshape(-1, 3)[indexes])


runs('runs8.bmp', 8)
runs('runs4.bmp', 4)


def bmp(name, bits, masks, rows, down=False):
    """Numbers that hold their colours, with masks."""
    head = struct.pack('<IiiHHIIiiII', 40, W, -H if down else H, 1, bits, 3 if masks else 0, 0, 0, 0, 0, 0)
    body = b''.join(r.tobytes() + b'\0' * (-len(r.tobytes()) % 4) for r in (rows if down else rows[::-1]))
    extra = struct.pack('<III', *masks) if masks else b''
    start = 54 + len(extra)
    with open(name, 'wb') as f:
        f.write(b'BM' + struct.pack('<IHHI', start + len(body), 0, 0, start) + head + extra + body)


five = (rgb >> 3).astype(np.uint16)
bmp('five.bmp', 16, None, (five[..., 0] << 10) | (five[..., 1] << 5) | five[..., 2])
says('five.bmp', np.rint(five / 31 * 255))
six = (rgb >> 2).astype(np.uint16)
bmp('six.bmp', 16, (0xF800, 0x7E0, 0x1F), (five[..., 0] << 11) | (six[..., 1] << 5) | five[..., 2], down=True)
says('six.bmp', np.stack([np.rint(five[..., 0] / 31 * 255), np.rint(six[..., 1] / 63 * 255), np.rint(five[..., 2] / 31 * 255)], -1))
wide = rgb.astype(np.uint32)
bmp('masks.bmp', 32, (0xFF, 0xFF00, 0xFF0000), wide[..., 0] | (wide[..., 1] << 8) | (wide[..., 2] << 16))
says('masks.bmp', rgb)
bmp('down.bmp', 24, None, np.ascontiguousarray(rgb[..., ::-1]), down=True)
says('down.bmp', rgb)


def tif(name, pixels, meaning, kind, big=False, ppi=None):
    """A TIFF of one strip, of any kind of number, with offsets of 32 or 64 bits, either end first."""
    end = '>' if rng.integers(2) else '<'
    pixels = np.ascontiguousarray(pixels.astype(pixels.dtype.newbyteorder(end)))
    n = 1 if pixels.ndim == 2 else pixels.shape[2]
    data = pixels.tobytes()
    fields = [(256, 3, [W]), (257, 3, [H]), (258, 3, [pixels.dtype.itemsize * 8] * n), (259, 3, [1]), (262, 3, [meaning]),
              (273, 4, [16]), (277, 3, [n]), (278, 3, [H]), (279, 4, [len(data)]), (339, 3, [kind] * n)]
    if ppi:
        fields += [(282, 5, [ppi[0], 1]), (283, 5, [ppi[1], 1]), (296, 3, [2])]
    room, entry, count = (8, 'HHQ', 'Q') if big else (4, 'HHI', 'H')
    at = 16 + len(data) + len(data) % 2
    free = at + struct.calcsize(end + count) + len(fields) * (4 + 2 * room) + room
    body = beside = b''
    for tag, sort, values in sorted(fields):
        packed = b''.join(struct.pack(end + {3: 'H', 4: 'I', 5: 'I'}[sort], v) for v in values)
        body += struct.pack(end + entry, tag, sort, len(values) // (2 if sort == 5 else 1))
        if len(packed) <= room:
            body += packed.ljust(room, b'\0')
        else:
            body += struct.pack(end + ('Q' if big else 'I'), free)
            beside += packed
            free += len(packed)
    first = b'MM' if end == '>' else b'II'
    head = first + (struct.pack(end + 'HHHQ', 43, 8, 0, at) if big else struct.pack(end + 'HI', 42, at))
    with open(name, 'wb') as f:
        f.write(head.ljust(16, b'\0') + data + b'\0' * (len(data) % 2) + struct.pack(end + count, len(fields)) + body + b'\0' * room + beside)


tif('big.tif', rgb, 2, 1, big=True, ppi=(300, 300))
says('big.tif', rgb)
tif('oblong2.tif', rgb, 2, 1, ppi=(300, 150))
says('oblong2.tif', rgb)
for name, numbers, kind in (
    ('broken1.tif', (grey / 255).astype(np.float32), 3),
    ('broken255.tif', grey.astype(np.float32), 3),
    ('wide.tif', grey.astype(np.uint32) * 16843009, 1),
    ('widesmall.tif', grey.astype(np.uint32), 1),
    ('signed.tif', np.floor(grey / 255 * (2**31 - 1)).astype(np.int32), 2),
    ('signed16.tif', np.rint(grey.astype(float) * 32767 / 255).astype(np.int16), 2),
):
    tif(name, numbers, 1, kind)
    says(name, grey)
tif('half.tif', (grey / 255).astype(np.float16), 1, 3)
light = np.where(rgb / 255 <= 0.04045, rgb / 255 / 12.92, ((rgb / 255 + 0.055) / 1.055) ** 2.4)
tif('light.tif', light.astype(np.float32), 2, 3)
says('light.tif', rgb)
