"""Puts into copies what their readers may never have heard of: parts that show, and parts that nothing can see.

Takes copies in this folder (a.png, a.jpg, a.webp, a.tif, a.pdf, a.xlsx, a.docx, a.odt, a.epub, a.stl, a.obj, a.3mf, a.glb, a.step, a.json);
the seed and how often are not needed: every kind is made once. Writes fault-*.ext and same-*.ext, and prints their names.
Done by the standard library and qpdf alone, after the published forms of the files.
"""
import base64
import io
import json
import os
import re
import struct
import subprocess
import zipfile
import zlib

names = []


def put(kind, name, ext, data):
    path = f"{kind}-{name}-0.{ext}"
    with open(path, "wb") as out:
        out.write(data)
    names.append(path)


def all_of(ext, faults, same):
    path = f"a.{ext}"
    if not os.path.exists(path):
        return
    with open(path, "rb") as file:
        data = file.read()
    for kind, changes in (("fault", faults), ("same", same)):
        for name, change in changes.items():
            try:
                out = change(data)
            except ValueError:
                out = None
            if out is None or out == data:
                raise SystemExit(f"{ext} {name}: nothing changed")
            put(kind, name, ext, out)


# ---------------------------------------------------------------- PNG (W3C PNG 3rd edition)
def png_chunks(data):
    at = 8
    while at < len(data):
        size, = struct.unpack(">I", data[at:at + 4])
        yield data[at + 4:at + 8], data[at + 8:at + 8 + size]
        at += 12 + size


def png_of(chunks):
    return b"\x89PNG\r\n\x1a\n" + b"".join(
        struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body)) for kind, body in chunks)


def exif(orientation, order=b"II", ppi=0):
    """Orientation, and a resolution where there is one (Exif 3.0, 4.6)."""
    e = "<" if order == b"II" else ">"
    turn = struct.pack(e + "HHIHH", 0x112, 3, 1, orientation, 0)
    if not ppi:
        return order + struct.pack(e + "HIH", 42, 8, 1) + turn + bytes(4)
    dots = struct.pack(e + "HHIIHHII", 0x11A, 5, 1, 8 + 2 + 48 + 4, 0x11B, 5, 1, 8 + 2 + 48 + 4)
    unit = struct.pack(e + "HHIHH", 0x128, 3, 1, 2, 0)
    return order + struct.pack(e + "HIH", 42, 8, 4) + turn + dots + unit + bytes(4) + struct.pack(e + "II", ppi, 1)


def swapped_colours(icc):
    """A profile that calls itself what it did, with red and blue exchanged (ICC.1, 7.3)."""
    out = bytearray(icc)
    count, = struct.unpack(">I", icc[128:132])
    places = {icc[132 + 12 * i:136 + 12 * i]: 132 + 12 * i for i in range(count)}
    red, blue = places[b"rXYZ"], places[b"bXYZ"]
    out[red + 4:red + 12], out[blue + 4:blue + 12] = icc[blue + 4:blue + 12], icc[red + 4:red + 12]
    return bytes(out)


def png_liar(data):
    return png_of((k, b[:b.index(b"\0") + 2] + zlib.compress(swapped_colours(zlib.decompress(b[b.index(b"\0") + 2:]))))
                  if k == b"iCCP" else (k, b) for k, b in png_chunks(data))


def png_with(kind, body, instead=(), before=b"IDAT"):
    def run(data):
        out, done = [], False
        for k, b in png_chunks(data):
            if k in instead:
                continue
            if k == before and not done:
                out.append((kind, body))
                done = True
            out.append((k, b))
        return png_of(out)
    return run


def png_animated(data):
    """Two frames: the picture, and one that is black."""
    out, head = [], None
    for k, b in png_chunks(data):
        if k == b"IHDR":
            head = b
        if k == b"IDAT" and not any(o[0] == b"fcTL" for o in out):
            out.append((b"acTL", struct.pack(">II", 2, 0)))
            out.append((b"fcTL", struct.pack(">IIIIIHHBB", 0, *struct.unpack(">II", head[:8]), 0, 0, 1, 1, 0, 0)))
        if k == b"IEND":
            w, h = struct.unpack(">II", head[:8])
            out.append((b"fcTL", struct.pack(">IIIIIHHBB", 1, w, h, 0, 0, 1, 1, 0, 0)))
            channels = {0: 1, 2: 3, 4: 2, 6: 4}[head[9]] * head[8] // 8
            out.append((b"fdAT", struct.pack(">I", 2) + zlib.compress(b"".join(b"\0" + bytes(w * channels) for _ in range(h)))))
        out.append((k, b))
    return png_of(out)


COLOUR = (b"iCCP", b"sRGB", b"gAMA", b"cHRM")
all_of("png", {
    "gamma": png_with(b"gAMA", struct.pack(">I", 100000), COLOUR, b"IDAT"),
    "primaries": png_with(b"cHRM", struct.pack(">8I", 31270, 32900, 73470, 26530, 11700, 82600, 13100, 4600), COLOUR),
    "code-points": png_with(b"cICP", bytes([9, 16, 0, 1])),
    "liar": png_liar,
    "turned": png_with(b"eXIf", exif(6, ppi=200), (b"eXIf",)),
    "turned-motorola": png_with(b"eXIf", exif(3, b"MM", 200), (b"eXIf",)),
    "other-resolution": png_with(b"pHYs", struct.pack(">IIB", 3937, 3937, 1), (b"pHYs",)),
    "other-notes": png_with(b"eXIf", exif(1, ppi=100), (b"eXIf",)),
    "wide-dots": png_with(b"pHYs", struct.pack(">IIB", 7874, 3937, 1), (b"pHYs",)),
    "no-unit": png_with(b"pHYs", struct.pack(">IIB", 7874, 7874, 0), (b"pHYs",)),
    "animated": png_animated,
    "critical": png_with(b"XyZw", b"what it is"),
    "offset": png_with(b"oFFs", struct.pack(">iiB", 1000, 1000, 0)),
    "scale": png_with(b"sCAL", b"\x011.0\x001.0"),
}, {
    "text": png_with(b"tEXt", b"Comment\0Looked at by Ines"),
    "time": png_with(b"tIME", struct.pack(">HBBBBB", 2026, 11, 20, 10, 0, 0)),
    "upright": png_with(b"eXIf", exif(1, b"MM", 200), (b"eXIf",)),
    "no-notes": png_with(b"tEXt", b"Comment\0none", (b"eXIf",)),
    "private": png_with(b"prVt", b"private, ancillary, safe to copy"),
    "significant-bits": lambda data: png_with(b"sBIT", b"\x08" * ({0: 1, 2: 3, 4: 2, 6: 4}[data[25]]), (b"sBIT",), b"IDAT")(data)
    if not any(k == b"PLTE" for k, _ in png_chunks(data)) else None,
})


# ---------------------------------------------------------------- JPEG (ITU-T T.81, JFIF, Exif)
def jpeg_with(marker, body, drop=lambda kind, body: False):
    def run(data):
        out, at = [data[:2]], 2
        done = False
        while True:
            kind = data[at + 1]
            size, = struct.unpack(">H", data[at + 2:at + 4])
            part = data[at + 4:at + 2 + size]
            if not done and kind not in (0xE0,):
                if marker:
                    out.append(struct.pack(">BBH", 0xFF, marker, len(body) + 2) + body)
                done = True
            if kind == 0xDA:
                out.append(data[at:])
                return b"".join(out)
            if not drop(kind, part):
                out.append(data[at:at + 2 + size])
            at += 2 + size
    return run


def of_camera(kind, body):
    return kind == 0xE1 and body.startswith(b"Exif")


def icc_in(data):
    at = data.index(b"ICC_PROFILE\0\x01\x01") + 14
    return data[at:at + struct.unpack(">I", data[at:at + 4])[0]]


APPLICATION = b"Adobe"  # term-guard: standard (ITU-T T.872, 6.5.3)


def of_transform(kind, body):
    return kind == 0xEE and body.startswith(APPLICATION)


all_of("jpg", {
    "turned": jpeg_with(0xE1, b"Exif\0\0" + exif(6, ppi=200), of_camera),
    "mirrored": jpeg_with(0xE1, b"Exif\0\0" + exif(2, b"MM", 200), of_camera),
    "other-resolution": jpeg_with(0xE1, b"Exif\0\0" + exif(1, ppi=100), of_camera),
    "two-resolutions": jpeg_with(0xE0, b"JFIF\0\x01\x02\x01" + struct.pack(">HH", 72, 72) + b"\0\0"),
    "wide-dots": jpeg_with(0xE0, b"JFIF\0\x01\x02\0" + struct.pack(">HH", 2, 1) + b"\0\0"),
    "liar": lambda data: data.replace(icc_in(data), swapped_colours(icc_in(data))),
    "no-transform": jpeg_with(0xEE, APPLICATION + b"\0\x64\0\0\0\0\0", of_transform),
    "other-profile": jpeg_with(0, b"", lambda kind, body: kind == 0xE2 and body.startswith(b"ICC_PROFILE")),
    "residual": jpeg_with(0xEB, b"JP" + bytes(100)),
    "beside-broken": jpeg_with(0xED, b"Photoshop 3.0\x008BIM\x04\x04\0\0\0\0\xff\xff\x1c\x02\x78"),  # term-guard: standard (ISO 16684-3, 1.1.3)
    "beside-tail": jpeg_with(0xED, b"Photoshop 3.0\x008BIM\x04\x04\0\0\0\0\0\x02\x1c\x02once more"),  # term-guard: standard (ISO 16684-3, 1.1.3)
    "more-pictures": jpeg_with(0xE2, b"MPF\0" + b"II*\0\x08\0\0\0\x01\0\x00\xb0\x07\0\x04\0\0\0" + b"0100" + b"\0\0\0\0"),
}, {
    "comment": jpeg_with(0xFE, b"looked at by Ines"),
    "upright": jpeg_with(0xE1, b"Exif\0\0" + exif(1, b"MM", 200), of_camera),
    "same-resolution": jpeg_with(0xE0, b"JFIF\0\x01\x02\x01" + struct.pack(">HH", 200, 200) + b"\0\0"),
    "caption": jpeg_with(0xED, b"Photoshop 3.0\x008BIM\x04\x04\0\0\0\0\0\x0c\x1c\x02\x78\0\x07Reedbed"),  # term-guard: standard (ISO 16684-3, 1.1.3)
})


# ---------------------------------------------------------------- WebP (RFC 9649)
def webp_parts(data):
    at = 12
    while at < len(data):
        size, = struct.unpack("<I", data[at + 4:at + 8])
        yield data[at:at + 4], data[at + 8:at + 8 + size]
        at += 8 + size + size % 2


def webp_of(parts):
    body = b"WEBP" + b"".join(k + struct.pack("<I", len(b)) + b + b"\0" * (len(b) % 2) for k, b in parts)
    return b"RIFF" + struct.pack("<I", len(body)) + body


def webp_with(kind, body, flag=0):
    def run(data):
        parts = [(k, b) for k, b in webp_parts(data) if k != kind]
        parts[0] = (b"VP8X", bytes([parts[0][1][0] | flag]) + parts[0][1][1:])
        return webp_of(parts + [(kind, body)])
    return run


def webp_without_profile(data):
    parts = [(k, b) for k, b in webp_parts(data) if k != b"ICCP"]
    parts[0] = (b"VP8X", bytes([parts[0][1][0] & ~0x20]) + parts[0][1][1:])
    return webp_of(parts)


def webp_animated(data):
    parts = list(webp_parts(data))
    head = parts[0][1]
    size = head[4:10]
    picture = [(k, b) for k, b in parts if k in (b"ALPH", b"VP8 ", b"VP8L")]
    frame = b"".join(k + struct.pack("<I", len(b)) + b + b"\0" * (len(b) % 2) for k, b in picture)
    shown = bytes(6) + size + b"\x64\0\0" + b"\0" + frame
    out = [(b"VP8X", bytes([head[0] | 2]) + head[1:])]
    for k, b in parts[1:]:
        if k in (b"ALPH", b"VP8 ", b"VP8L"):
            if not any(o[0] == b"ANIM" for o in out):
                out += [(b"ANIM", b"\xff\xff\xff\xff\0\0"), (b"ANMF", shown), (b"ANMF", shown)]
        else:
            out.append((k, b))
    return webp_of(out)


all_of("webp", {
    "turned": webp_with(b"EXIF", exif(6, ppi=200), 8),
    "turned-introduced": webp_with(b"EXIF", b"Exif\0\0" + exif(6, ppi=200), 8),
    "no-profile": webp_without_profile,
    "animated": webp_animated,
    "unknown": webp_with(b"ines", b"of some other program"),
}, {
    "upright": webp_with(b"EXIF", exif(1, b"MM", 200), 8),
})


# ---------------------------------------------------------------- TIFF 6.0
def tiff_with(tag, kind, values, drop=()):
    """A directory of its own at the end, with one entry more or another; data of others stay where they are."""
    def run(data):
        e = "<" if data[:2] == b"II" else ">"
        at, = struct.unpack(e + "I", data[4:8])
        count, = struct.unpack(e + "H", data[at:at + 2])
        entries = {}
        for i in range(count):
            raw = data[at + 2 + 12 * i:at + 14 + 12 * i]
            entries[struct.unpack(e + "H", raw[:2])[0]] = raw
        next_, = struct.unpack(e + "I", data[at + 2 + 12 * count:at + 6 + 12 * count])
        out = bytearray(data + b"\0" * (len(data) % 2))
        size = {1: "B", 2: "s", 3: "H", 4: "I", 5: "II"}[kind]
        body = values if kind == 2 else b"".join(struct.pack(e + size, *(v if isinstance(v, tuple) else (v,))) for v in values)
        if len(body) <= 4:
            place = body.ljust(4, b"\0")
        else:
            place = struct.pack(e + "I", len(out))
            out += body + b"\0" * (len(body) % 2)
        for one in drop:
            entries.pop(one, None)
        if tag:
            entries[tag] = struct.pack(e + "HHI", tag, kind, len(values)) + place
        start = len(out)
        out += struct.pack(e + "H", len(entries)) + b"".join(entries[k] for k in sorted(entries)) + struct.pack(e + "I", next_)
        out[4:8] = struct.pack(e + "I", start)
        return bytes(out)
    return run


def tiff_twice(data):
    e = "<" if data[:2] == b"II" else ">"
    at, = struct.unpack(e + "I", data[4:8])
    count, = struct.unpack(e + "H", data[at:at + 2])
    out = bytearray(data + b"\0" * (len(data) % 2))
    again = len(out)
    out += data[at:at + 2 + 12 * count] + bytes(4)
    out[at + 2 + 12 * count:at + 6 + 12 * count] = struct.pack(e + "I", again)
    return bytes(out)


all_of("tif", {
    "turned": tiff_with(274, 3, [6]),
    "mirrored": tiff_with(274, 3, [4]),
    "second": tiff_twice,
    "other-unit": tiff_with(296, 3, [3]),
    "no-unit": tiff_with(296, 3, [1]),
    "other-resolution": tiff_with(282, 5, [(72, 1)]),
    "no-profile": tiff_with(0, 3, [], (34675,)),
    "broken-profile": tiff_with(34675, 1, list(b"not a profile at all")),
    "moved": tiff_with(286, 5, [(3, 1)]),
}, {
    "private": tiff_with(65001, 1, list(b"of some other program")),
    "upright": tiff_with(274, 3, [1]),
    "program": tiff_with(305, 2, b"Fen scanner 2\0"),
    "artist": tiff_with(315, 2, b"Ines Okoro\0"),
    "date": tiff_with(306, 2, b"2026:11:20 10:00:00\0"),
})


# ---------------------------------------------------------------- PDF (ISO 32000), by qpdf's JSON
def pdf_open(data):
    with open("in.pdf", "wb") as file:
        file.write(data)
    shown = subprocess.run(["qpdf", "--json-output=2", "--json-stream-data=inline", "in.pdf", "-"], capture_output=True)
    if shown.returncode not in (0, 3):
        raise SystemExit(shown.stderr.decode())
    return json.loads(shown.stdout)


def pdf_changed(act):
    def run(data):
        opened = pdf_open(data)
        objects = opened["qpdf"][1]
        act(objects)
        with open("changed.json", "w") as file:
            json.dump(opened, file)
        made = subprocess.run(["qpdf", "--json-input", "changed.json", "out.pdf"], capture_output=True)
        if made.returncode not in (0, 3):
            raise SystemExit(made.stderr.decode())
        with open("out.pdf", "rb") as file:
            return file.read()
    return run


def pdf_new(objects, value=None, stream=None, dict_=None):
    number = max(int(k.split()[0][4:]) for k in objects if k.startswith("obj:")) + 1
    objects[f"obj:{number} 0 R"] = (
        {"value": value} if stream is None else
        {"stream": {"data": base64.b64encode(stream).decode(), "dict": dict_ or {}}})
    return f"{number} 0 R"


def pdf_of(objects, ref):
    return objects[f"obj:{ref}"]["value"]


def pdf_catalog(objects):
    return pdf_of(objects, objects["trailer"]["value"]["/Root"])


def pdf_pages(objects):
    return [one["value"] for one in objects.values() if isinstance(one.get("value"), dict) and one["value"].get("/Type") == "/Page"]


def pdf_page(key, value):
    def act(objects):
        page = pdf_pages(objects)[0]
        page[key] = value(objects, page) if callable(value) else value
    return pdf_changed(act)


def pdf_root(key, value):
    def act(objects):
        pdf_catalog(objects)[key] = value(objects) if callable(value) else value
    return pdf_changed(act)


def pdf_drawn(before=b"", after=b"", resources=None):
    """More instructions before and after those of the first page."""
    def act(objects):
        page = pdf_pages(objects)[0]
        own = page["/Contents"]
        own = own if isinstance(own, list) else [own]
        page["/Contents"] = ([pdf_new(objects, stream=before)] if before else []) + own + ([pdf_new(objects, stream=after)] if after else [])
        if resources:
            held = page.get("/Resources", {})
            if isinstance(held, str):
                held = dict(pdf_of(objects, held))
            else:
                held = dict(held)
            for key, more in resources(objects).items():
                old = held.get(key, {})
                old = dict(pdf_of(objects, old)) if isinstance(old, str) else dict(old)
                held[key] = {**old, **more}
            page["/Resources"] = held
    return pdf_changed(act)


def annotation(kind, **more):
    def make(objects, page):
        look = pdf_new(objects, stream=b"1 0 0 rg 0 0 60 30 re f", dict_={
            "/Type": "/XObject", "/Subtype": "/Form", "/BBox": [0, 0, 60, 30]})
        one = {"/Type": "/Annot", "/Subtype": kind, "/Rect": [30, 30, 90, 60], "/AP": {"/N": look}, **more}
        return [pdf_new(objects, one)]
    return make


def widget(objects):
    make = annotation("/Widget", **{"/FT": "/Tx", "/T": "u:name", "/V": "u:Heron", "/F": 4})
    page = pdf_pages(objects)[0]
    page["/Annots"] = make(objects, page)
    return {"/Fields": page["/Annots"], "/NeedAppearances": False}


def state(**values):
    return lambda objects: {"/ExtGState": {"/GSnew": {f"/{k}": v for k, v in values.items()}}}


all_of("pdf", {
    "rotated": pdf_page("/Rotate", 90),
    "cropped": pdf_page("/CropBox", [20, 20, 120, 120]),
    "unit": pdf_page("/UserUnit", 2),
    "stamp": pdf_page("/Annots", annotation("/Stamp", **{"/F": 4})),
    "free-text": pdf_page("/Annots", annotation("/FreeText", **{"/F": 4, "/Contents": "u:not like this", "/DA": "u:/Helv 12 Tf"})),
    "square": pdf_page("/Annots", annotation("/Square", **{"/F": 4})),
    "field": pdf_root("/AcroForm", widget),
    "drawn-more": pdf_drawn(after=b"q 0 0 0 rg 20 20 50 50 re f Q"),
    "hidden-all": pdf_drawn(before=b"0 0 m 0 0 l h W n"),
    "opacity": pdf_drawn(before=b"/GSnew gs", resources=state(ca=0.3, CA=0.3)),
    "mixed": pdf_drawn(before=b"/GSnew gs", resources=state(BM="/Difference")),
    "overprint": pdf_drawn(before=b"/GSnew gs", resources=state(OP=True, op=True, OPM=1)),
    "narrowed": pdf_drawn(before=b"0.98 0 0 1 0 0 cm"),
    "soft-mask": pdf_drawn(before=b"/GSnew gs", resources=lambda objects: {"/ExtGState": {"/GSnew": {"/SMask": {
        "/S": "/Luminosity", "/G": pdf_new(objects, stream=b"0.3 g 0 0 2000 2000 re f", dict_={
            "/Type": "/XObject", "/Subtype": "/Form", "/BBox": [0, 0, 2000, 2000],
            "/Group": {"/S": "/Transparency", "/CS": "/DeviceGray"}})}}}}),
    "transfer": pdf_drawn(before=b"/GSnew gs", resources=lambda objects: {"/ExtGState": {"/GSnew": {
        "/TR": {"/FunctionType": 2, "/Domain": [0, 1], "/N": 1, "/C0": [1], "/C1": [0]}}}}),
    "form": pdf_drawn(after=b"/Xnew Do", resources=lambda objects: {"/XObject": {"/Xnew": pdf_new(
        objects, stream=b"0 0 0 rg 30 30 90 20 re f", dict_={"/Type": "/XObject", "/Subtype": "/Form", "/BBox": [0, 0, 500, 500]})}}),
    "stray-words": pdf_drawn(after=b"BT /Fnew 24 Tf 40 40 Td (Not to be cut) Tj ET", resources=lambda objects: {
        "/Font": {"/Fnew": {"/Type": "/Font", "/Subtype": "/Type1", "/BaseFont": "/Helvetica"}}}),
    "pattern": pdf_drawn(after=b"/Pattern cs /Pnew scn 30 30 90 20 re f", resources=lambda objects: {"/Pattern": {"/Pnew": pdf_new(
        objects, stream=b"0 0 0 rg 0 0 3 3 re f", dict_={"/PatternType": 1, "/PaintType": 1, "/TilingType": 1, "/BBox": [0, 0, 6, 6],
                                                         "/XStep": 6, "/YStep": 6, "/Resources": {}})}}),
    "shading": pdf_drawn(after=b"/Snew sh", resources=lambda objects: {"/Shading": {"/Snew": {
        "/ShadingType": 1, "/ColorSpace": "/DeviceRGB", "/Function": {
            "/FunctionType": 2, "/Domain": [0, 1], "/N": 1, "/C0": [1, 0, 0], "/C1": [0, 0, 1]}}}}),
    "inline-picture": pdf_drawn(after=b"q 60 0 0 60 30 30 cm BI /W 2 /H 2 /BPC 8 /CS /G ID \x00\xff\xff\x00 EI Q"),
    "open-action": pdf_root("/OpenAction", {"/S": "/JavaScript", "/JS": "u:app.alert(1)"}),
    "script": pdf_root("/Names", lambda objects: {"/JavaScript": {"/Names": ["u:a", {"/S": "/JavaScript", "/JS": "u:this.getField('a')"}]}}),
    "attached": pdf_root("/Names", lambda objects: {"/EmbeddedFiles": {"/Names": ["u:a.txt", pdf_new(objects, {
        "/Type": "/Filespec", "/F": "u:a.txt", "/EF": {"/F": pdf_new(objects, stream=b"words", dict_={"/Type": "/EmbeddedFile"})}})]}}),
    "print-intent": pdf_root("/OutputIntents", lambda objects: [{"/Type": "/OutputIntent", "/S": "/GTS_PDFX",
                                                                 "/OutputConditionIdentifier": "u:Newsprint"}]),
    "trimmed": pdf_page("/TrimBox", [40, 40, 140, 140]),
}, {
    "link": pdf_page("/Annots", lambda objects, page: [pdf_new(objects, {
        "/Type": "/Annot", "/Subtype": "/Link", "/Rect": [30, 30, 90, 60], "/Border": [0, 0, 0], "/A": {"/S": "/URI", "/URI": "u:https://fen.example"}})]),
    "hidden-note": pdf_page("/Annots", annotation("/Stamp", **{"/F": 2})),
    "thumb": pdf_page("/Thumb", lambda objects, page: pdf_new(objects, stream=b"\0", dict_={
        "/Width": 1, "/Height": 1, "/BitsPerComponent": 8, "/ColorSpace": "/DeviceGray"})),
    "outlines": pdf_root("/Outlines", lambda objects: pdf_new(objects, {"/Type": "/Outlines", "/Count": 0})),
    "layout": pdf_root("/PageLayout", "/TwoColumnLeft"),
    "mode": pdf_root("/PageMode", "/UseNone"),
    "language": pdf_root("/Lang", "u:en"),
    "preferences": pdf_root("/ViewerPreferences", {"/FitWindow": True}),
    "private": pdf_page("/PieceInfo", {"/Fen": {"/LastModified": "u:D:20261120", "/Private": 1}}),
    "timed": pdf_page("/Dur", 1),
    "said-state": pdf_drawn(before=b"q", after=b"Q"),
    "flatness": pdf_drawn(before=b"0 i /Perceptual ri"),
    "marked": pdf_drawn(before=b"/Span <</Lang (en)>> BDC", after=b"EMC"),
    "nothing-seen": pdf_drawn(after=b"q 10 10 20 20 re n Q"),
    "page-labels": pdf_root("/PageLabels", {"/Nums": [0, {"/S": "/D"}]}),
})


# ---------------------------------------------------------------- packages of XML parts
def zip_changed(act):
    def run(data):
        with zipfile.ZipFile(io.BytesIO(data)) as old:
            parts = {info.filename: (info, old.read(info)) for info in old.infolist()}
        files = {name: body for name, (_, body) in parts.items()}
        if act(files) is False:
            return None
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as new:
            for name, body in files.items():
                stored = name in parts and parts[name][0].compress_type == zipfile.ZIP_STORED
                new.writestr(zipfile.ZipInfo(name), body, zipfile.ZIP_STORED if stored else zipfile.ZIP_DEFLATED)
        return out.getvalue()
    return run


def part_sub(part, pattern, to, count=1):
    """The first match in the first part whose name matches."""
    def act(files):
        for name in files:
            if re.search(part, name):
                new, n = re.subn(pattern, to, files[name].decode("utf-8"), count, re.S)
                if n:
                    files[name] = new.encode("utf-8")
                    return True
        return False
    return zip_changed(act)


SHEET = r"worksheets/sheet\d*\.xml$"
all_of("xlsx", {
    "hidden-row": part_sub(SHEET, r'<row r="3"', '<row hidden="1" r="3"'),
    "zero-height": part_sub(SHEET, r'<row r="3"', '<row ht="0" customHeight="1" r="3"'),
    "hidden-column": part_sub(SHEET, r"<col ", '<col hidden="1" '),
    "hidden-sheet": part_sub(r"workbook\.xml$", r"<sheet ", '<sheet state="hidden" '),
    "very-hidden-sheet": part_sub(r"workbook\.xml$", r"<sheet ", '<sheet state="veryHidden" '),
    "merged": part_sub(SHEET, r"</sheetData>", '</sheetData><mergeCells count="1"><mergeCell ref="A2:B3"/></mergeCells>'),  # term-guard: standard (ECMA-376-1, 18.3.1.55)
    "conditional": part_sub(SHEET, r"</sheetData>",
                            '</sheetData><conditionalFormatting sqref="A1:H30"><cfRule type="expression" priority="1" dxfId="0"><formula>TRUE</formula></cfRule></conditionalFormatting>'),
    "bars": part_sub(SHEET, r"</sheetData>",
                     '</sheetData><conditionalFormatting sqref="D2:D9"><cfRule type="dataBar" priority="1"><dataBar><cfvo type="min"/><cfvo type="max"/><color rgb="FFFF0000"/></dataBar></cfRule></conditionalFormatting>'),
    "drawing": part_sub(SHEET, r"</worksheet>", '<drawing xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" r:id="rId99"/></worksheet>'),
    "old-drawing": part_sub(SHEET, r"</worksheet>", '<legacyDrawing xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" r:id="rId99"/></worksheet>'),
    "background": part_sub(SHEET, r"</worksheet>", '<picture xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" r:id="rId99"/></worksheet>'),
    "filtered": part_sub(SHEET, r"</sheetData>",
                         '</sheetData><autoFilter ref="A1:H9"><filterColumn colId="1"><filters><filter val="Bare"/></filters></filterColumn></autoFilter>'),
    "right-to-left": part_sub(SHEET, r"<sheetView ", '<sheetView rightToLeft="1" '),
    "no-zeros": part_sub(SHEET, r"<sheetView ", '<sheetView showZeros="0" '),
    "formulas-shown": part_sub(SHEET, r"<sheetView ", '<sheetView showFormulas="1" '),
    "epoch": part_sub(r"workbook\.xml$", r"<sheets>", '<workbookPr date1904="1"/><sheets>'),
    "as-shown": part_sub(r"workbook\.xml$", r"</workbook>", '<calcPr fullPrecision="0"/></workbook>'),
    "reference-by-number": part_sub(r"workbook\.xml$", r"</workbook>", '<calcPr iterate="1" iterateCount="9"/></workbook>'),
    "struck-font": part_sub(r"styles\.xml$", r"<font>", "<font><strike/>", 99),
    "white-font": part_sub(r"styles\.xml$", r"<font>", '<font><color rgb="FFFFFFFF"/>', 99),
    "external": part_sub(r"workbook\.xml$", r"</sheets>", '</sheets><externalReferences><externalReference xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" r:id="rId99"/></externalReferences>'),  # term-guard: standard (ECMA-376-1, 18.2.9)
    "macro": zip_changed(lambda files: files.update({"xl/vbaProject.bin": b"\xd0\xcf\x11\xe0"})),
    "unknown-element": part_sub(SHEET, r"</sheetData>", "</sheetData><fen:seen xmlns:fen=\"https://fen.example\"/>"),
    "unknown-attribute": part_sub(SHEET, r"<c r=\"B3\"", '<c fen="1" r="B3"'),
    "rich-words": part_sub(r"sharedStrings\.xml$", r"<si><t[^>]*>([^<]{4,})</t>", r"<si><r><rPr><strike/></rPr><t>\1</t></r>"),
    "negatives-hidden": part_sub(r"styles\.xml$", r'formatCode="0\.0"', 'formatCode="0.0;;0.0"'),
    "negatives-without-sign": part_sub(r"styles\.xml$", r'formatCode="0\.0"', 'formatCode="0.0;0.0"'),
    "zeros-hidden": part_sub(r"styles\.xml$", r'formatCode="0\.0"', 'formatCode="0.0;-0.0;"'),
    "tiny": part_sub(r"styles\.xml$", r'<sz val="11"/>', '<sz val="1"/>'),
    "computed-by-hand": part_sub(r"workbook\.xml$", r"</workbook>", '<calcPr calcMode="manual"/></workbook>'),
    "no-width": part_sub(SHEET, r'(<col [^>]*width=")[^"]*', r"\g<1>0"),
    "sheet-script": part_sub(SHEET, r"</worksheet>", '<oleObjects><oleObject progId="Fen" shapeId="1"/></oleObjects></worksheet>'),
}, {
    "sideways": part_sub(r"styles\.xml$", r'(<xf [^>]*?)/>(?=</cellXfs>)', r'\1 applyAlignment="1"><alignment textRotation="90"/></xf>'),
    "another-name": part_sub(r"workbook\.xml$", r"</sheets>", "</sheets><definedNames><definedName name=\"Loss\">'Panels'!$A$1</definedName></definedNames>"),
    "red-negatives": part_sub(r"styles\.xml$", r'formatCode="0\.0"', 'formatCode="0.0;[Red]-0.0"'),
    "light-ground": part_sub(r"styles\.xml$", r'<patternFill patternType="none"/>', '<patternFill patternType="solid"><fgColor rgb="FFD0E0E0"/></patternFill>'),
    "active-cell": part_sub(SHEET, r"<sheetData>", "<sheetData>\n"),
    "margins": part_sub(SHEET, r"</worksheet>", '<pageMargins left="0.7" right="0.7" top="0.75" bottom="0.75" header="0.3" footer="0.3"/></worksheet>'),
    "page": part_sub(SHEET, r"</worksheet>", '<pageSetup paperSize="9" orientation="landscape"/></worksheet>'),
    "spelling": part_sub(SHEET, r"</worksheet>", '<ignoredErrors><ignoredError sqref="A1" numberStoredAsText="1"/></ignoredErrors></worksheet>'),
    "window": part_sub(r"workbook\.xml$", r"<sheets>", '<bookViews><workbookView xWindow="0" yWindow="0" windowWidth="20000" windowHeight="9000"/></bookViews><sheets>'),
    "theme": zip_changed(lambda files: files.update({"docProps/app.xml": b'<Properties xmlns="http://schemas.openxmlformats.org/officeDocument/2006/extended-properties"><Application>Fen</Application></Properties>'})),
    "calculated": part_sub(r"workbook\.xml$", r"</workbook>", '<calcPr calcId="191029" fullCalcOnLoad="1"/></workbook>'),
    "zoom": part_sub(SHEET, r"<sheetView ", '<sheetView zoomScale="80" '),
    "spans": part_sub(SHEET, r'<row r="3"', '<row spans="1:9" r="3"'),
    "extension": part_sub(SHEET, r"</worksheet>", "<extLst/></worksheet>"),
})

DOC = r"document\.xml$"
RUN = r"(<w:r>|<w:r [^>]*>)"
all_of("docx", {
    "emboss": part_sub(DOC, RUN + r"(?=<w:t)", r"\1<w:rPr><w:emboss/></w:rPr>"),
    "wide-letters": part_sub(DOC, RUN + r"(?=<w:t)", r'\1<w:rPr><w:w w:val="200"/></w:rPr>'),
    "spaced-letters": part_sub(DOC, RUN + r"(?=<w:t)", r'\1<w:rPr><w:spacing w:val="100"/></w:rPr>'),
    "unknown-property": part_sub(DOC, RUN + r"(?=<w:t)", r"\1<w:rPr><w:sedge/></w:rPr>"),
    "unknown-element": part_sub(DOC, r"</w:p>", "<w:sedge/></w:p>"),
    "field": part_sub(DOC, r"</w:p>", '<w:fldSimple w:instr="DATE"><w:r><w:t>today</w:t></w:r></w:fldSimple></w:p>'),
    "sum": part_sub(DOC, r"</w:p>", '<m:oMath xmlns:m="http://schemas.openxmlformats.org/officeDocument/2006/math"><m:r><m:t>x</m:t></m:r></m:oMath></w:p>'),
    "symbol": part_sub(DOC, r"</w:p>", '<w:r><w:sym w:font="Wingdings" w:char="F04A"/></w:r></w:p>'),
    "columns": part_sub(DOC, r"<w:sectPr[^>]*>", lambda m: m.group(0) + '<w:cols w:num="3"/>'),
    "page-border": part_sub(DOC, r"<w:sectPr[^>]*>", lambda m: m.group(0) + '<w:pgBorders><w:top w:val="single" w:sz="24"/></w:pgBorders>'),
    "background": part_sub(DOC, r"<w:body>", '<w:background w:color="000000"/><w:body>'),
    "header": part_sub(DOC, r"<w:sectPr[^>]*>", lambda m: m.group(0) + '<w:headerReference xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" w:type="default" r:id="rId99"/>'),
    "other-document": part_sub(DOC, r"<w:sectPr", '<w:altChunk xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" r:id="rId99"/><w:sectPr'),
    "framed": part_sub(DOC, r"<w:pPr>", '<w:pPr><w:framePr w:w="2000" w:x="5000" w:y="9000"/>'),
    "paragraph-border": part_sub(DOC, r"<w:pPr>", '<w:pPr><w:pBdr><w:top w:val="single" w:sz="24"/></w:pBdr>'),
    "paragraph-shade": part_sub(DOC, r"<w:pPr>", '<w:pPr><w:shd w:val="clear" w:fill="000000"/>'),
    "hidden-style": part_sub(r"styles\.xml$", r"<w:rPr>", "<w:rPr><w:vanish/>", 99),
    "macro": zip_changed(lambda files: files.update({"word/vbaProject.bin": b"\xd0\xcf\x11\xe0"})),
}, {
    "proofed": part_sub(DOC, r"</w:p>", '<w:proofErr w:type="spellStart"/></w:p>'),
    "revision-ids": part_sub(DOC, r"<w:p>", '<w:p w:rsidR="00AA11BB">', 99),
    "bookmark": part_sub(DOC, r"</w:p>", '<w:bookmarkStart w:id="91" w:name="_Fen"/><w:bookmarkEnd w:id="91"/></w:p>'),
    "last-page": part_sub(DOC, r"(<w:r>|<w:r [^>]*>)(?=<w:t)", r"\1<w:lastRenderedPageBreak/>"),
    "no-proof": part_sub(DOC, r"(<w:r>|<w:r [^>]*>)(?=<w:t)", r"\1<w:rPr><w:noProof/></w:rPr>"),
    "permission": part_sub(DOC, r"</w:p>", '<w:permStart w:id="1" w:edGrp="everyone"/><w:permEnd w:id="1"/></w:p>'),
})

CONTENT = r"content\.xml$"
all_of("odt", {
    "field": part_sub(CONTENT, r"</text:p>", "<text:page-count>3</text:page-count></text:p>"),
    "unknown-element": part_sub(CONTENT, r"</text:p>", "<text:sedge>reeds</text:sedge></text:p>"),
    "ruby": part_sub(CONTENT, r"</text:p>", "<text:ruby><text:ruby-base>a</text:ruby-base><text:ruby-text>b</text:ruby-text></text:ruby></text:p>"),
    "shape": part_sub(CONTENT, r"</text:p>", '<draw:rect xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0"/></text:p>'),
    "index": part_sub(CONTENT, r"</office:text>", '<text:table-of-content text:name="t"><text:index-body><text:p>One 3</text:p></text:index-body></text:table-of-content></office:text>'),
    "conditional": part_sub(CONTENT, r"</text:p>", '<text:conditional-text text:condition="1" text:string-value-if-true="yes" text:string-value-if-false="no">yes</text:conditional-text></text:p>'),
    "script": part_sub(CONTENT, r"<office:body>", '<office:scripts><office:script script:language="x" xmlns:script="urn:oasis:names:tc:opendocument:xmlns:script:1.0"/></office:scripts><office:body>'),
}, {
    "change": part_sub(CONTENT, r"</text:p>", '<text:change text:change-id="ct1"/></text:p>'),
    "soft-page": part_sub(CONTENT, r"</text:p>", "<text:soft-page-break/></text:p>"),
    "bookmark": part_sub(CONTENT, r"</text:p>", '<text:bookmark text:name="fen"/></text:p>'),
    "declarations": part_sub(CONTENT, r"<office:text[^>]*>", lambda m: m.group(0) + "<text:sequence-decls/>"),
})

PAGE = r"text-\d+\.xhtml$"
all_of("epub", {
    "script": part_sub(PAGE, r"</body>", "<script>x()</script></body>"),
    "sum": part_sub(PAGE, r"</body>", '<math xmlns="http://www.w3.org/1998/Math/MathML"><mi>x</mi></math></body>'),
    "picture": part_sub(PAGE, r"</body>", '<svg xmlns="http://www.w3.org/2000/svg"><rect width="9" height="9"/></svg></body>'),
    "unknown": part_sub(PAGE, r"</body>", "<sedge>reeds</sedge></body>"),
    "media": part_sub(PAGE, r"</body>", '<audio src="a.mp3" controls="controls"></audio></body>'),
    "ruby": part_sub(PAGE, r"</body>", "<p><ruby>a<rt>b</rt></ruby></p></body>"),
    "locked": zip_changed(lambda files: files.update({"META-INF/encryption.xml": b'<encryption xmlns="urn:oasis:names:tc:opendocument:xmlns:container"/>'})),
    "backwards": part_sub(r"\.opf$", r"<spine", '<spine page-progression-direction="rtl"'),
    "fixed": part_sub(r"\.opf$", r"</metadata>", '<meta property="rendition:layout">pre-paginated</meta></metadata>'),
    "other-page": part_sub(r"\.opf$", r"</spine>", '<itemref idref="none"/></spine>'),
    "sheet": part_sub(r"\.css$", r"^", "p{display:none}"),
    "contents-script": part_sub(r"nav\.xhtml$", r"</body>", "<script>x()</script></body>"),
    "contents-other": part_sub(r"nav\.xhtml$", r"<span>[^<]+</span>", "<span>Something else</span>"),
    "contents-more": part_sub(r"nav\.xhtml$", r"</nav>", "</nav><p>Read this first.</p>"),
}, {
    "comment": part_sub(PAGE, r"</body>", "<!-- seen --></body>"),
    "kind": part_sub(PAGE, r"<body", '<body epub:type="bodymatter" xmlns:epub="http://www.idpf.org/2007/ops"'),
    "maker": part_sub(r"\.opf$", r"</metadata>", '<meta name="generator" content="Fen"/></metadata>'),
})


# ---------------------------------------------------------------- solids
def lines_more(*more, at=None):
    def run(data):
        lines = data.decode("utf-8").split("\n")
        place = len(lines) - 1 if at is None else next(i for i, line in enumerate(lines) if line.startswith(at))
        return "\n".join(lines[:place] + list(more) + lines[place:]).encode("utf-8")
    return run


all_of("stl", {
    "more-bytes": lambda data: data + b"more triangles?",
    "coloured": lambda data: data[:84 + 48] + b"\x1f\x80" + data[84 + 50:],
}, {
    "header": lambda data: b"Fen".ljust(10) + data[10:],
})
all_of("obj", {
    "free-form": lines_more("cstype bspline", "deg 3", "curv 0 1 1 2 3 4", "end"),
    "line": lines_more("l 1 2 3"),
    "point": lines_more("p 1"),
    "unknown": lines_more("sedge 1 2 3"),
    "weighted": lambda data: re.sub(rb"(?m)^(v [^\n\r]*)", rb"\1 0.5", data, count=1),
    "coloured": lambda data: re.sub(rb"(?m)^(v [^\n\r]*)", rb"\1 1 0 0", data, count=1),
    "called": lines_more("call other.obj"),
}, {
    "library": lines_more("mtllib other.mtl", at="v "),
    "comment": lines_more("# seen"),
    "smooth": lines_more("s off", at="f "),
    "normals": lines_more("vn 0 0 1", at="f "),
    "blank": lines_more("", ""),
})

MODEL = r"3dmodel\.model$"
all_of("3mf", {
    "placed": part_sub(MODEL, r"<item ", '<item transform="1 0 0 0 1 0 0 0 1 5 0 0" '),
    "not-printed": part_sub(MODEL, r"<item ", '<item printable="0" '),
    "support": part_sub(MODEL, r"<object ", '<object type="support" '),
    "needs": part_sub(MODEL, r"<model ", '<model requiredextensions="fen" xmlns:fen="https://fen.example" '),
    "lattice": part_sub(MODEL, r"</mesh>", '<b:beamlattice xmlns:b="http://schemas.microsoft.com/3dmanufacturing/beamlattice/2017/02" minlength="0.1" radius="1"><b:beams><b:beam v1="0" v2="1"/></b:beams></b:beamlattice></mesh>'),  # term-guard: standard (3MF Beam Lattice Extension, 1.2)
    "unknown-element": part_sub(MODEL, r"</resources>", '<fen:seen xmlns:fen="https://fen.example"/></resources>'),
    "unknown-attribute": part_sub(MODEL, r"<object ", '<object sedge="1" '),
    "second-material": part_sub(MODEL, r'<triangle ', '<triangle pid="77" p1="0" '),
}, {
    "metadata": part_sub(MODEL, r"<resources>", '<metadata name="Designer">Ines</metadata><resources>'),
    "thumbnail": zip_changed(lambda files: files.update({"Metadata/thumbnail.png": b"\x89PNG"})),
    "comment": part_sub(MODEL, r"<resources>", "<!-- seen --><resources>"),
})


def glb_changed(act):
    def run(data):
        size, = struct.unpack("<I", data[12:16])
        document = json.loads(data[20:20 + size])
        act(document)
        text = json.dumps(document).encode()
        text += b" " * (-len(text) % 4)
        rest = data[20 + size:]
        return b"glTF" + struct.pack("<II", 2, 20 + len(text) + len(rest)) + struct.pack("<I4s", len(text), b"JSON") + text + rest
    return run


def glb_set(path, value):
    def act(document):
        at = document
        for key in path[:-1]:
            at = at[key] if isinstance(key, int) else at.setdefault(key, {})
        at[path[-1]] = value
    return glb_changed(act)


all_of("glb", {
    "required": glb_set(["extensionsRequired"], ["FEN_reeds"]),
    "animated": glb_set(["animations"], [{"channels": [], "samplers": []}]),
    "camera": glb_changed(lambda d: d["nodes"][0].update({"camera": 0})),
    "skin": glb_set(["skins"], [{"joints": [0]}]),
    "morph": glb_set(["meshes", 0, "weights"], [1]),
    "placed": glb_set(["nodes", 0, "translation"], [0.005, 0, 0]),
    "see-through": glb_changed(lambda d: d["materials"][0].update({"alphaMode": "BLEND"})),
    "mask": glb_changed(lambda d: d["materials"][0].update({"alphaMode": "MASK", "alphaCutoff": 2})),
    "glow": glb_changed(lambda d: d["materials"][0].update({"emissiveFactor": [1, 1, 1]})),
    "extension": glb_changed(lambda d: d["materials"][0].update({"extensions": {"FEN_reeds": {}}})),
    "unknown-key": glb_changed(lambda d: d["meshes"][0]["primitives"][0].update({"sedge": 1})),
    "lines": glb_changed(lambda d: d["meshes"][0]["primitives"][0].update({"mode": 1})),
    "instances": glb_changed(lambda d: d["nodes"][0].update({"extensions": {"EXT_mesh_gpu_instancing": {"attributes": {"TRANSLATION": 0}}}})),
    "no-scene": glb_changed(lambda d: d.update({"scenes": [{"nodes": []}]})),
}, {
    "camera-of-none": glb_set(["cameras"], [{"type": "perspective", "perspective": {"yfov": 1, "znear": 1}}]),
    "opaque": glb_changed(lambda d: d["materials"][0].update({"alphaMode": "OPAQUE", "emissiveFactor": [0, 0, 0], "doubleSided": True})),
    "extras": glb_set(["extras"], {"by": "Ines"}),
    "maker": glb_set(["asset", "generator"], "Fen"),
    "rights": glb_set(["asset", "copyright"], "Fen"),
    "named": glb_changed(lambda d: d["bufferViews"][0].update({"name": "corners"})),
})


def step_more(*entities):
    def run(data):
        text = data.decode("latin-1")
        number = max(int(n) for n in re.findall(r"#(\d+)\s*=", text)) + 1
        more = "".join(f"#{number + i}={one};\n" for i, one in enumerate(entities))
        at = text.rindex("ENDSEC;")
        return (text[:at] + more + text[at:]).encode("latin-1")
    return run


def step_unit(data):
    text = data.decode("latin-1")
    return text.replace("SI_UNIT(.MILLI.,.METRE.)", "SI_UNIT(.CENTI.,.METRE.)").replace(
        "SI_UNIT( .MILLI., .METRE. )", "SI_UNIT(.CENTI.,.METRE.)").encode("latin-1")


all_of("step", {
    "unit": step_unit,
    "unknown": step_more("SEDGE('reeds',3.)"),
    "annotation": step_more("ANNOTATION_PLANE('',(),$,())"),
}, {
    "comment": lambda data: data.replace(b"DATA;", b"DATA;\n/* seen */", 1),
    "point-of-nothing": step_more("CARTESIAN_POINT('',(0.,0.,50.))"),
})


# ---------------------------------------------------------------- JSON of tables
def json_changed(act):
    def run(data):
        document = json.loads(data)
        act(document)
        return json.dumps(document, ensure_ascii=False).encode()
    return run


all_of("json", {
    "unknown-of-a-column": json_changed(lambda d: d["tables"][0]["columns"][0].update({"hidden": True})),
    "beyond": json_changed(lambda d: d["tables"][0]["rows"][0].append(3)),
    "unknown": json_changed(lambda d: d.update({"sedge": 1})),
}, {
    "spread": lambda data: json.dumps(json.loads(data), indent=3, ensure_ascii=True).encode(),
})
print(json.dumps(names))
