"""Spoils pages of a PDF, and re-writes them without harm, by pikepdf, fontTools and Pillow.

Takes a.pdf of this folder, a seed and how often each fault is made; writes fault-*.pdf and same-*.pdf, and prints their names.
After ISO 32000-1. What can't be done to this file is left out.
"""
import glob
import io
import json
import random
import subprocess
import sys
import tempfile
import zlib
from decimal import Decimal

import pikepdf
from fontTools.ttLib import TTFont
from PIL import Image, ImageChops, ImageCms
from pikepdf import Array, Dictionary, Name, Operator, Pdf, Stream

names = []
seed, each = int(sys.argv[1]), int(sys.argv[2])
dice = random.Random(seed)


class Cannot(Exception):
    """There is nothing in this file that this could be done to."""


def pick(things):
    things = list(things)
    if not things:
        raise Cannot
    return dice.choice(things)


# ------------------------------------------------------------------------------------------------------- instructions
PAINT = {"f", "F", "f*", "B", "B*", "b", "b*", "S", "s"}


def lists(pdf):
    """Everything that is drawn by instructions: pages, and forms among their resources."""
    found, seen = [], set()
    for page in pdf.pages:
        found.append(page)
        forms = page.obj.get("/Resources", Dictionary()).get("/XObject", Dictionary())
        for form in dict(forms).values():
            if form.get("/Subtype") == "/Form" and form.objgen not in seen:
                seen.add(form.objgen)
                found.append(form)
    return found


def instructions(where):
    return [(list(args), str(operator)) for args, operator in pikepdf.parse_content_stream(where)]


def plain(value):
    """A number as PDF knows them: without an exponent (ISO 32000-1, 7.3.3), which the library writes for some."""
    if isinstance(value, Decimal) and "E" in str(value):
        return value.quantize(Decimal("0.000001")) if value else 0
    return Array([plain(one) for one in value]) if isinstance(value, Array) else value


def written(listed):
    return pikepdf.unparse_content_stream([([plain(arg) for arg in args], Operator(name)) for args, name in listed])


def put(pdf, where, new):
    data = written(new)
    if isinstance(where, pikepdf.Page):
        where.obj["/Contents"] = Stream(pdf, data)
    else:
        where.write(data)


def changing(wanted, change):
    """A change to one instruction, chosen among all that are wanted. @param change gives those that stand instead"""
    def go(pdf):
        places = []
        for where in lists(pdf):
            listed = instructions(where)
            places += [(where, listed, at) for at, (args, name) in enumerate(listed) if wanted(args, name)]
        where, listed, at = pick(places)
        put(pdf, where, listed[:at] + change(*listed[at]) + listed[at + 1:])
    return go


def off(least=0.3, most=4.0):
    return Decimal(str(round(dice.uniform(least, most) * dice.choice((-1, 1)), 3)))


def number(name, at, change):
    """One number of an instruction, another one."""
    def go(args, operator):
        args[at] = change(Decimal(str(args[at])))
        return [(args, operator)]
    return changing(lambda args, operator: operator == name and len(args) > at, go)


def before(wanted, *new):
    return changing(lambda args, name: name in wanted, lambda args, name: [*new, (args, name)])


def shown(least=2):
    return lambda args, name: name == "TJ" and sum(len(bytes(a)) // 2 for a in args[0] if isinstance(a, pikepdf.String)) >= least


def apart(by):
    """A number between two letters."""
    def go(args, name):
        parts = list(args[0])
        at = pick(i for i, part in enumerate(parts) if isinstance(part, pikepdf.String) and len(bytes(part)) >= 4)
        whole = bytes(parts[at])
        cut = 2 * dice.randrange(1, len(whole) // 2)
        parts[at:at + 1] = [pikepdf.String(whole[:cut]), by() if callable(by) else by, pikepdf.String(whole[cut:])]
        return [([Array(parts)], name)]
    return changing(lambda args, name: name == "TJ" and any(
        isinstance(a, pikepdf.String) and len(bytes(a)) >= 4 for a in args[0]), go)


def turned_letters(args, name):
    parts = list(args[0])
    at = pick(i for i, part in enumerate(parts) if isinstance(part, pikepdf.String)
              and len({bytes(part)[k:k + 2] for k in range(0, len(bytes(part)), 2)}) > 1)
    whole = bytes(parts[at])
    codes = [whole[i:i + 2] for i in range(0, len(whole), 2)]
    i = pick(i for i in range(len(codes) - 1) if codes[i] != codes[i + 1])
    codes[i], codes[i + 1] = codes[i + 1], codes[i]
    parts[at] = pikepdf.String(b"".join(codes))
    return [([Array(parts)], name)]


def without_shape(pdf):
    """Takes out a path and what paints it."""
    where, listed, at = pick(
        (where, listed, at) for where in lists(pdf) for listed in [instructions(where)]
        for at, (_, name) in enumerate(listed) if name in PAINT)
    first = at
    while first and listed[first - 1][1] in {"m", "l", "c", "v", "y", "h", "re"}:
        first -= 1
    put(pdf, where, listed[:first] + listed[at + 1:])


def other_order(pdf):
    """Two neighbours that overlap are drawn the other way: a square is put under and over the same place."""
    where = pick(pdf.pages)
    listed = instructions(where)
    first = next((i for i, (_, name) in enumerate(listed) if name in PAINT), None)
    if first is None:
        raise Cannot
    put(pdf, where, listed[:first + 1] + [([], "q"), ([Decimal("0.9"), 0, 0], "rg"), ([20, 20, 6, 6], "re"), ([], "f"), ([], "Q")]
        + listed[first + 1:])


# -------------------------------------------------------------------------------------------------------------- fonts
def fonts(pdf):
    found = []
    for page in pdf.pages:
        for font in dict(page.obj["/Resources"].get("/Font", Dictionary())).values():
            if font not in found:
                found.append(font)
    return [font for font in found if font.get("/Subtype") == "/Type0"]


def below(font):
    return font["/DescendantFonts"][0]


def file_of(font):
    inner = below(font)["/FontDescriptor"]
    for key in ("/FontFile2", "/FontFile3"):
        if key in inner:
            return inner, key
    raise Cannot


def used(pdf):
    """Glyphs that are shown, by the font's name among the resources."""
    found = {}
    for where in lists(pdf):
        font = None
        for args, name in instructions(where):
            if name == "Tf":
                font = str(args[0])
            elif name in ("TJ", "Tj") and font:
                for part in (args[0] if name == "TJ" else args):
                    if isinstance(part, pikepdf.String):
                        whole = bytes(part)
                        found.setdefault(font, set()).update(
                            int.from_bytes(whole[i:i + 2], "big") for i in range(0, len(whole), 2))
    return found


def used_in(pdf):
    """A font, and glyphs of it that are shown and have a shape."""
    page = pdf.pages[0]
    places = []
    for name, codes in used(pdf).items():
        font = page.obj["/Resources"]["/Font"].get(name)
        if font is None:
            continue
        inner, key = file_of(font)
        if key != "/FontFile2":
            continue
        ttf = TTFont(io.BytesIO(inner[key].read_bytes()))
        order = ttf.getGlyphOrder()
        inked = [code for code in sorted(codes) if code < len(order) and ttf["glyf"][order[code]].numberOfContours > 0]
        if len(inked) >= 2:
            places.append((font, ttf, order, inked))
    return pick(places)


def write_font(font, ttf):
    made = io.BytesIO()
    ttf.save(made)
    inner, key = file_of(font)
    inner[key].write(made.getvalue())


def map_swapped(pdf):
    font, ttf, order, inked = used_in(pdf)
    one, other = dice.sample(inked, 2)
    table = list(range(len(order)))
    table[one], table[other] = other, one
    below(font)["/CIDToGIDMap"] = Stream(pdf, b"".join(code.to_bytes(2, "big") for code in table))


def files_exchanged(pdf):
    found = fonts(pdf)
    if len(found) < 2:
        raise Cannot
    one, other = dice.sample(found, 2)
    (a, key), (b, other_key) = file_of(one), file_of(other)
    a[key], b[other_key] = b[other_key], a[key]


def file_removed(pdf):
    inner, key = file_of(pick(fonts(pdf)))
    del inner[key]


def glyph(change):
    def go(pdf):
        font, ttf, order, inked = used_in(pdf)
        change(ttf, *(order[code] for code in dice.sample(inked, 2)))
        write_font(font, ttf)
    return go


def scaled(ttf, one, _):
    drawn = ttf["glyf"][one]
    drawn.coordinates.scale((1.15, 1))
    drawn.recalcBounds(ttf["glyf"])


def raised(ttf, one, _):
    drawn = ttf["glyf"][one]
    drawn.coordinates.translate((0, ttf["head"].unitsPerEm // 20))
    drawn.recalcBounds(ttf["glyf"])


def dented(ttf, one, _):
    drawn = ttf["glyf"][one]
    x, y = drawn.coordinates[0]
    drawn.coordinates[0] = (x + ttf["head"].unitsPerEm // 10, y)
    drawn.recalcBounds(ttf["glyf"])


def emptied(ttf, one, _):
    from fontTools.ttLib.tables._g_l_y_f import Glyph
    ttf["glyf"][one] = Glyph()


def exchanged(ttf, one, other):
    table = ttf["glyf"]
    table[one], table[other] = table[other], table[one]


def widened(pdf):
    """Widths of letters that others follow."""
    font = pick(fonts(pdf))
    inner = below(font)
    inner["/W"] = Array([
        Array([width + 150 for width in part]) if isinstance(part, Array) else part for part in inner["/W"]])


def upright(pdf):
    pick(fonts(pdf))["/Encoding"] = Name("/Identity-V")


def other_meaning(pdf):
    font = pick(fonts(pdf))
    if "/ToUnicode" not in font:
        raise Cannot
    said = font["/ToUnicode"].read_bytes()
    import re
    codes = re.findall(rb"<00[4-7][0-9a-f]>", said)
    if not codes:
        raise Cannot
    one = pick(codes)
    font["/ToUnicode"].write(said.replace(one, b"<0058>" if one != b"<0058>" else b"<0059>"))


# ------------------------------------------------------------------------------------------------------------- colours
def profile(swapped):
    data = bytearray(ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes())
    if swapped:
        data[:] = data.replace(b"rXYZ", b"?XYZ", 1).replace(b"bXYZ", b"rXYZ", 1).replace(b"?XYZ", b"bXYZ", 1)
    return bytes(data)


def icc(pdf, swapped):
    made = Stream(pdf, profile(swapped))
    made["/N"] = 3
    made["/Alternate"] = Name("/DeviceRGB")
    return Array([Name("/ICCBased"), pdf.make_indirect(made)])


def calibrated(gamma):
    return Array([Name("/CalRGB"), Dictionary(WhitePoint=Array([Decimal("0.9505"), 1, Decimal("1.089")]),
                                              Gamma=Array([gamma, gamma, gamma]))])


def spaces(pdf):
    for page in pdf.pages:
        resources = page.obj["/Resources"]
        if "/ColorSpace" not in resources:
            resources["/ColorSpace"] = Dictionary()
        yield resources["/ColorSpace"]


def default_space(pdf):
    for all_of in spaces(pdf):
        all_of["/DefaultRGB"] = calibrated(Decimal("3.5"))


def through(space):
    """A fill's colour through a space of its own."""
    def go(pdf):
        made = space(pdf)
        for all_of in spaces(pdf):
            all_of["/Own"] = made
        changing(lambda args, name: name == "rg" and len({float(a) for a in args}) > 1,
                 lambda args, name: [([Name("/Own")], "cs"), (args, "sc")])(pdf)
    return go


def pictures(pdf):
    found = []
    for page in pdf.pages:
        for one in dict(page.obj["/Resources"].get("/XObject", Dictionary())).values():
            if one.get("/Subtype") == "/Image" and one not in found and one.get("/ColorSpace") == "/DeviceRGB":
                found.append(one)
    return found


def rendered(pdf):
    with tempfile.TemporaryDirectory() as folder:
        pdf.save(f"{folder}/a.pdf")
        subprocess.run(["pdftoppm", "-r", "60", f"{folder}/a.pdf", f"{folder}/a"], check=True, stderr=subprocess.DEVNULL)
        return [Image.open(io.BytesIO(open(path, "rb").read())).convert("RGB") for path in sorted(glob.glob(f"{folder}/a*.ppm"))]


def unlike(one, other):
    """How many pixels of a page are off by more than 16 of 255."""
    if one.size != other.size:
        return one.size[0] * one.size[1]
    grey = ImageChops.difference(one, other).split()
    worst = ImageChops.lighter(ImageChops.lighter(grey[0], grey[1]), grey[2])
    return sum(worst.histogram()[17:])


def seen(change):
    """A change that another program shows, 60 to the inch: what nobody paints with can be changed at will."""
    def go(pdf):
        before = rendered(pdf)
        change(pdf)
        if sum(unlike(*pair) for pair in zip(before, rendered(pdf))) < 20:
            raise Cannot
    return go


def picture(change, lying=False):
    """@param lying one whose pixels lie in it as they are"""
    def go(pdf):
        change(pdf, pick(one for one in pictures(pdf) if not lying or "DCT" not in str(one.get("/Filter"))))
    return go


def with_entry(key, value):
    return picture(lambda pdf, one: one.__setitem__(key, value(pdf) if callable(value) else value))


def inverted(pdf, one):
    one["/Decode"] = Array([1, 0] * 3)


def veil(pdf, one):
    width, height = int(one["/Width"]), int(one["/Height"])
    mask = Stream(pdf, bytes([90]) * (width * height))
    for key, value in dict(Type=Name("/XObject"), Subtype=Name("/Image"), Width=width, Height=height,
                           ColorSpace=Name("/DeviceGray"), BitsPerComponent=8).items():
        mask["/" + key] = value
    one["/SMask"] = pdf.make_indirect(mask)


def unveiled(pdf):
    one = pick(one for one in pictures(pdf) if "/SMask" in one)
    del one["/SMask"]


def painted_on(pdf, one):
    data = bytearray(one.read_bytes())
    at = dice.randrange(0, max(1, len(data) - 90))
    for i in range(at, min(len(data), at + 90)):
        data[i] = (data[i] + 120) % 256
    one.write(bytes(data))


def bytes_moved(pdf, one):
    """A row slipped by some pixels."""
    data = one.read_bytes()
    one.write(data[60:] + data[:60])


# -------------------------------------------------------------------------------------------------------------- hidden
def hidden_group(pdf):
    group = pdf.make_indirect(Dictionary(Type=Name("/OCG"), Name="Elsewhere"))
    root = pdf.Root
    if "/OCProperties" not in root:
        root["/OCProperties"] = Dictionary(OCGs=Array([]), D=Dictionary(Order=Array([])))
    root["/OCProperties"]["/OCGs"].append(group)
    shown_as = root["/OCProperties"]["/D"]
    if "/OFF" not in shown_as:
        shown_as["/OFF"] = Array([])
    shown_as["/OFF"].append(group)
    return group


def hidden_picture(pdf):
    one = pick(pictures(pdf))
    one["/OC"] = hidden_group(pdf)


def hidden_form(pdf):
    forms = [one for one in lists(pdf) if not isinstance(one, pikepdf.Page)]
    pick(forms)["/OC"] = hidden_group(pdf)


def layer_off(pdf):
    groups = pdf.Root.get("/OCProperties", Dictionary()).get("/OCGs", [])
    pdf.Root["/OCProperties"]["/D"]["/OFF"] = Array([pick(groups)])


def state(**entries):
    """A state of graphics before something that is painted."""
    def go(pdf):
        made = pdf.make_indirect(Dictionary(**{key: value(pdf) if callable(value) else value for key, value in entries.items()}))
        for page in pdf.pages:
            resources = page.obj["/Resources"]
            if "/ExtGState" not in resources:
                resources["/ExtGState"] = Dictionary()
            resources["/ExtGState"]["/Own"] = made
        changing(lambda args, name: name in PAINT, lambda args, name: [(args, name)])
        where, listed, at = pick((pdf.pages[0], listed, at) for listed in [instructions(pdf.pages[0])]
                                 for at, (_, name) in enumerate(listed) if name in ("m", "re", "BT"))
        put(pdf, where, listed[:at] + [([Name("/Own")], "gs")] + listed[at:])
    return go


def power(exponent):
    return Dictionary(FunctionType=2, Domain=Array([0, 1]), N=exponent, C0=Array([0]), C1=Array([1]))


def soft_mask(curve=None, grey="0.4"):
    def make(pdf):
        form = Stream(pdf, f"{grey} g -1000 -1000 9000 9000 re f".encode())
        form["/Type"], form["/Subtype"] = Name("/XObject"), Name("/Form")
        form["/BBox"] = Array([-1000, -1000, 9000, 9000])
        form["/Group"] = Dictionary(S=Name("/Transparency"), CS=Name("/DeviceRGB"))
        mask = Dictionary(S=Name("/Luminosity"), G=pdf.make_indirect(form))
        if curve is not None:
            mask["/TR"] = power(curve)
        return mask
    return make


# --------------------------------------------------------------------------------------------------------------- pages
def page_entry(key, value):
    def go(pdf):
        page = pick(pdf.pages)
        page.obj[key] = value(page) if callable(value) else value
    return go


def box(change):
    return lambda page: Array(change(*[Decimal(str(v)) for v in page.obj["/MediaBox"]]))


def note(pdf):
    page = pick(pdf.pages)
    page.obj["/Annots"] = Array([pdf.make_indirect(Dictionary(
        Type=Name("/Annot"), Subtype=Name("/Square"), Rect=Array([20, 20, 60, 50]), C=Array([1, 0, 0]), F=4))])


def more(pdf):
    page = pick(pdf.pages)
    page.contents_add(b"q 0.1 0.5 0.3 rg 30 30 9 7 re f Q", prepend=False)


def shading(change):
    def go(pdf):
        found = []
        for page in pdf.pages:
            resources = page.obj["/Resources"]
            found += list(dict(resources.get("/Shading", Dictionary())).values())
            found += [one["/Shading"] for one in dict(resources.get("/Pattern", Dictionary())).values() if "/Shading" in one]
        change(pick(found))
    return go


def other_end(one):
    coords = [Decimal(str(v)) for v in one["/Coords"]]
    coords[2 if len(coords) == 4 else 3] += off(2, 6)
    one["/Coords"] = Array(coords)


def functions(one):
    if "/Functions" in one:
        for inner in one["/Functions"]:
            yield from functions(inner)
    elif "/C0" in one:
        yield one


def other_stop(one):
    inner = pick(functions(one["/Function"]))
    inner["/C1"] = Array([1 - Decimal(str(v)) for v in inner["/C1"]])


def bent(one):
    pick(functions(one["/Function"]))["/N"] = 3


def pattern(change):
    def go(pdf):
        found = [one for page in pdf.pages for one in dict(page.obj["/Resources"].get("/Pattern", Dictionary())).values()
                 if one.get("/PatternType") == 1]
        change(pick(found))
    return go


def other_step(one):
    one["/XStep"] = Decimal(str(one["/XStep"])) * Decimal("1.2")


def other_cell(one):
    one["/Matrix"] = Array([Decimal(str(v)) + (off(1, 3) if i == 4 else 0) for i, v in enumerate(one["/Matrix"])])


def with_exponent(pdf):
    """A number that is none: readers make of it what they like."""
    where, listed = pick((where, listed) for where in lists(pdf) for listed in [instructions(where)]
                         if any(name == "cm" for _, name in listed))
    put(pdf, where, listed)
    data = where.obj["/Contents"].read_bytes() if isinstance(where, pikepdf.Page) else where.read_bytes()
    data = b"q 1 0 0 1 0E-9 0 cm Q\n" + data
    if isinstance(where, pikepdf.Page):
        where.obj["/Contents"] = Stream(pdf, data)
    else:
        where.write(data)


FAULTS = {
    "something over the edge of the page": lambda pdf: beside(-44)(pdf),
    "a number with an exponent": with_exponent,
    "half a word far off": apart(-600),
    "letters a little apart": apart(lambda: -dice.randrange(40, 90)),
    "letters nearer": apart(lambda: dice.randrange(40, 200)),
    "two letters turned round": changing(shown(), turned_letters),
    "a letter twice": changing(shown(), lambda args, name: [([Array([*args[0], pikepdf.String(bytes(args[0][0])[:2])])], name)]),
    "glyphs swapped by the map": map_swapped,
    "two font files exchanged": files_exchanged,
    "a font file removed": file_removed,
    "a letter of the font wider": glyph(scaled),
    "a letter of the font higher": glyph(raised),
    "a letter of the font dented": glyph(dented),
    "a letter of the font empty": glyph(emptied),
    "two letters of the font exchanged": glyph(exchanged),
    "widths wider": widened,
    "letters one below the other": upright,
    "letters that mean others": other_meaning,
    "letters spaced": before({"Tf"}, ([Decimal("0.77")], "Tc")),
    "letters stretched": before({"TJ"}, ([115], "Tz")),
    "letters raised": before({"TJ"}, ([Decimal("0.6")], "Ts")),
    "letters as lines": before({"TJ"}, ([1], "Tr")),
    "letters unseen": before({"TJ"}, ([3], "Tr")),
    "letters that clip": before({"TJ"}, ([7], "Tr")),
    "a text in another size": number("Tf", 1, lambda size: size * Decimal("1.04")),
    "a text elsewhere": number("Tm", 4, lambda x: x + off()),
    "a text higher": number("Tm", 5, lambda y: y + off()),
    "a text turned over": number("Tm", 3, lambda d: -d),
    "a text leaning": number("Tm", 2, lambda c: c + Decimal("0.2")),
    "a text gone": changing(lambda args, name: name == "TJ", lambda args, name: []),
    "a fill of another red": number("rg", 0, lambda v: v + (Decimal("0.1") if v < Decimal("0.5") else Decimal("-0.1"))),
    "a fill of another blue": number("rg", 2, lambda v: v + (Decimal("0.1") if v < Decimal("0.5") else Decimal("-0.1"))),
    "a line of another green": number("RG", 1, lambda v: v + (Decimal("0.1") if v < Decimal("0.5") else Decimal("-0.1"))),
    "a fill by a profile that swaps colours": through(lambda pdf: icc(pdf, True)),
    "a fill by another curve": through(lambda pdf: calibrated(Decimal("3.5"))),
    "all colours by another curve": default_space,
    "a picture by a profile that swaps colours": with_entry("/ColorSpace", lambda pdf: icc(pdf, True)),
    "a picture by another curve": with_entry("/ColorSpace", lambda pdf: calibrated(Decimal("3.5"))),
    "a picture as a negative": picture(inverted),
    "a picture painted on": picture(painted_on, lying=True),
    "a picture slipped": picture(bytes_moved, lying=True),
    "a picture seen through": picture(veil),
    "a picture no more seen through": unveiled,
    "a picture cut out by colour": with_entry("/Mask", Array([0, 255, 0, 128, 0, 255])),
    "a picture hidden": hidden_picture,
    "a form hidden": seen(hidden_form),
    "a layer off": seen(layer_off),
    "under a mask": seen(state(SMask=soft_mask())),
    "under a mask with a curve": seen(state(SMask=soft_mask(9, "0.9"))),
    "a curve of the device": state(TR=lambda pdf: power(4)),
    "seen through": seen(state(ca=Decimal("0.5"))),
    "lines seen through": seen(state(CA=Decimal("0.4"), ca=Decimal("0.7"))),
    "mixed otherwise": seen(state(BM=Name("/Difference"))),
    "overprinting": state(OP=True, op=True, OPM=1),
    "a corner moved": seen(number("l", 0, lambda x: x + off())),
    "a corner higher": seen(number("l", 1, lambda y: y + off())),
    "a start moved": seen(number("m", 0, lambda x: x + off())),
    "a curve bent": seen(number("c", 1, lambda y: y + off(1, 4))),
    "a curve ending elsewhere": seen(number("c", 4, lambda x: x + off())),
    "a line wider": number("w", 0, lambda w: w * Decimal("1.5") + Decimal("0.1")),
    "a dash of another length": changing(lambda args, name: name == "d" and len(args[0]),
                                         lambda args, name: [([Array([Decimal(str(v)) * 2 for v in args[0]]), args[1]], name)]),
    "ends of lines": seen(number("J", 0, lambda v: (v + 1) % 3)),
    "corners of lines": seen(number("j", 0, lambda v: (v + 1) % 3)),
    "everything moved": lambda pdf: pick(pdf.pages).contents_add(b"1 0 0 1 0.4 0 cm", prepend=True),
    "something moved": seen(number("cm", 4, lambda x: x + off())),
    "something larger": seen(number("cm", 0, lambda a: a * Decimal("1.03"))),
    "a clip gone": seen(changing(lambda args, name: name in ("W", "W*"), lambda args, name: [])),
    "filled as lines": changing(lambda args, name: name in ("f", "f*"), lambda args, name: [([], "S")]),
    "lines filled": changing(lambda args, name: name == "S", lambda args, name: [([], "f")]),
    "a shape gone": seen(without_shape),
    "a shape between": other_order,
    "a shape more": more,
    "a note on the page": note,
    "a page turned": page_entry("/Rotate", 90),
    "a page of another unit": page_entry("/UserUnit", 2),
    "a page larger": page_entry("/MediaBox", box(lambda a, b, c, d: [a, b, c + 5, d])),
    "a page cropped": page_entry("/CropBox", box(lambda a, b, c, d: [a + 9, b + 9, c - 9, d - 9])),
    "a shading to elsewhere": seen(shading(other_end)),
    "a shading to another colour": seen(shading(other_stop)),
    "a shading by another curve": seen(shading(bent)),
    "a pattern wider apart": seen(pattern(other_step)),
    "a pattern elsewhere": seen(pattern(other_cell)),
}


# ------------------------------------------------------------------------------------------------------------ harmless
def every(change):
    """A change to all lists of instructions."""
    def go(pdf):
        for where in lists(pdf):
            put(pdf, where, change(instructions(where)))
    return go


def halves(listed):
    for args, name in listed:
        if name != "TJ":
            yield args, name
            continue
        parts = []
        for part in args[0]:
            whole = bytes(part) if isinstance(part, pikepdf.String) else None
            parts += [part] if whole is None or len(whole) < 4 else [pikepdf.String(whole[:2]), 0, pikepdf.String(whole[2:])]
        yield [Array(parts)], name


def closing(listed):
    """An outline that ends in "h" and a paint is painted closed."""
    out = []
    for args, name in listed:
        if name == "S" and out and out[-1][1] == "h":
            out[-1] = ([], "s")
        else:
            out.append((args, name))
    return out


def two_streams(pdf):
    for page in pdf.pages:
        listed = instructions(page)
        at = len(listed) // 2
        parts = [written(half) for half in (listed[:at], listed[at:])]
        page.obj["/Contents"] = Array([pdf.make_indirect(Stream(pdf, part)) for part in parts])


def renamed_subset(pdf):
    for font in fonts(pdf):
        name = "/QWERTY+" + str(font["/BaseFont"]).split("+")[-1].lstrip("/")
        for one in (font, below(font)):
            one["/BaseFont"] = Name(name)
        below(font)["/FontDescriptor"]["/FontName"] = Name(name)


def fonts_saved_again(pdf):
    for font in fonts(pdf):
        inner, key = file_of(font)
        if key == "/FontFile2":
            write_font(font, TTFont(io.BytesIO(inner[key].read_bytes())))


def map_stated(pdf):
    for font in fonts(pdf):
        below(font)["/CIDToGIDMap"] = Stream(pdf, b"".join(code.to_bytes(2, "big") for code in range(4000)))


def other_corners(pdf):
    for page in pdf.pages:
        a, b, c, d = page.obj["/MediaBox"]
        page.obj["/MediaBox"] = Array([c, d, a, b])


def larger_forms(pdf):
    for one in lists(pdf):
        if not isinstance(one, pikepdf.Page):
            one["/BBox"] = Array([-400000, -400000, 400000, 400000])


def packed_twice(pdf):
    done = 0
    for page in pdf.pages:
        for one in dict(page.obj["/Resources"].get("/XObject", Dictionary())).values():
            if one.get("/Filter") == "/DCTDecode":
                raw = one.read_raw_bytes()
                one.write(zlib.compress(raw), filter=Array([Name("/FlateDecode"), Name("/DCTDecode")]))
                done += 1
    if not done:
        raise Cannot


def profile_of_srgb(pdf):
    found = pictures(pdf)
    if not found:
        raise Cannot
    own = icc(pdf, False)
    for one in found:
        one["/ColorSpace"] = own


def resources_renamed(pdf):
    for page in pdf.pages:
        every_name = {}
        resources = page.obj["/Resources"]
        listed = instructions(page)
        for kind, operators in (("/Font", {"Tf"}), ("/ExtGState", {"gs"})):
            own = resources.get(kind, Dictionary())
            every_name.update({(operator, name): Name(name + "x") for operator in operators for name in dict(own)})
            resources[kind] = Dictionary({**dict(own), **{name + "x": value for name, value in dict(own).items()}})
        put(pdf, page, [
            ([every_name.get((name, str(args[0])), args[0]), *args[1:]] if name in ("Tf", "gs") else args, name)
            for args, name in listed])


def beside(far):
    """A square of 50 points and a line, so far from the left edge of each page."""
    drawn = [([1, 0, 0], "rg"), ([far, 100, 50, 50], "re"), ([], "f"), ([3], "w"), ([far, 90], "m"), ([far + 50, 90], "l"), ([], "S")]

    def go(pdf):
        for page in pdf.pages:
            put(pdf, page, [([], "q"), *instructions(page), ([], "Q"), *drawn])
    return go


SAME = {
    "saved again": lambda pdf: None,
    "letters in two halves": every(lambda listed: list(halves(listed))),
    "put aside and back": every(lambda listed: [([], "q"), *listed, ([], "Q")]),
    "moved by nothing": every(lambda listed: [([1, 0, 0, 1, 0, 0], "cm"), *listed]),
    "colours by their space": every(lambda listed: [
        new for args, name in listed
        for new in ([([Name("/DeviceRGB")], "cs"), (args, "sc")] if name == "rg" else [(args, name)])]),
    "closed while it is painted": every(closing),
    "marks": every(lambda listed: [([Name("/Somewhere")], "MP"), *listed]),
    "flatness": every(lambda listed: [([1], "i"), *listed]),
    "rendering intent": every(lambda listed: [([Name("/Perceptual")], "ri"), *listed]),
    "an empty text": every(lambda listed: [*listed, ([], "BT"), ([], "ET")]),
    "a path that is not painted": every(lambda listed: [*listed, ([5, 5], "m"), ([9, 9], "l"), ([], "n")]),
    "two streams": two_streams,
    "another subset's name": renamed_subset,
    "fonts saved again": fonts_saved_again,
    "the map stated": map_stated,
    "the box by its other corners": other_corners,
    "forms with larger boxes": larger_forms,
    "a picture packed twice": packed_twice,
    "a picture's space by its profile": profile_of_srgb,
    "names of resources": resources_renamed,
    "tabs in order": page_entry("/Tabs", Name("/S")),
    "a thumbnail's place": page_entry("/PZ", 1),
    "turned by nothing": page_entry("/Rotate", 0),
    "cropped by nothing": page_entry("/CropBox", lambda page: Array(list(page.obj["/MediaBox"]))),
    "the device's own curve": state(TR=Name("/Identity")),
    "seen as it is": state(ca=1, CA=1, BM=Name("/Normal")),
}
SAVED = {
    "packed in objects": dict(object_stream_mode=pikepdf.ObjectStreamMode.generate),
    "linearised": dict(linearize=True),
    "unpacked": dict(compress_streams=False, stream_decode_level=pikepdf.StreamDecodeLevel.generalized),
    "in order": dict(qdf=True),
    "locked with no word": dict(encryption=pikepdf.Encryption(owner="keeper", user="", R=6)),
}

for kind, changes in (("fault", FAULTS), ("same", SAME)):
    for name, change in changes.items():
        for turn in range(each if kind == "fault" else 1):
            # Each has a dice of its own, so that none depends on what the others found. Not every place will do; most do.
            dice = random.Random(f"{seed} {name} {turn}")
            for _ in range(4):
                with Pdf.open("a.pdf") as pdf:
                    try:
                        change(pdf)
                    except Cannot:
                        continue
                    path = f"{kind}-{name}-{turn}.pdf"
                    pdf.save(path)
                    names.append(path)
                    break
for name, how in SAVED.items():
    with Pdf.open("a.pdf") as pdf:
        path = f"same-{name}-0.pdf"
        pdf.save(path, **how)
        names.append(path)
print(json.dumps(names))
