"""Spoils an SVG copy, and re-writes it without harm, by lxml, which shares nothing with ours.

Takes a.svg in this folder, a seed and how often each; writes fault-*.svg and same-*.svg, and prints their names.
"""
import copy
import json
import random
import re
import sys

from lxml import etree

SEED, EACH = int(sys.argv[1]), int(sys.argv[2])
NS = "http://www.w3.org/2000/svg"
XLINK = "http://www.w3.org/1999/xlink"
S = "{%s}" % NS
SOURCE = open("a.svg", "rb").read()
names = []
kinds = {"fault": {}, "same": {}}


def kind(which, name):
    def keep(act):
        kinds[which][name] = act
        return act
    return keep


def new(tag, text=None, **attributes):
    one = etree.Element(S + tag, nsmap={None: NS})
    for key, value in attributes.items():
        one.set(key.rstrip("_").replace("_", "-"), str(value))
    one.text = text
    return one


def defs(root):
    return root.find(S + "defs")


def drawn(root, *tags):
    """Elements that are painted by themselves, not as a part of a pattern or mask."""
    wanted = [S + tag for tag in tags or ("path", "circle", "text")]
    return [e for e in root.iter(*wanted) if not any(a.tag in (S + "defs", S + "pattern") for a in e.iterancestors())]


def lined(root):
    """Lines with corners to show, drawn as lines alone."""
    return [e for e in drawn(root, "path") if e.get("stroke") and e.get("fill") == "none" and "L" in e.get("d")]


def filled(root):
    return [e for e in drawn(root, "path") if e.get("fill", "none").startswith("#")]


def on(pick, which, name, **attributes):
    """An attribute of an element that is picked."""
    def act(root, rnd):
        one = rnd.choice(pick(root))
        for key, value in attributes.items():
            one.set(key.rstrip("_").replace("_", "-"), value)
    kinds[which][name] = act


def css(pick, which, name, words):
    def act(root, rnd):
        one = rnd.choice(pick(root))
        one.set("style", (one.get("style", "") + ";" + words).strip(";"))
    kinds[which][name] = act


def sheet(which, name, words, **attributes):
    def act(root, rnd):
        root.insert(0, new("style", words, **attributes))
    kinds[which][name] = act


whole = lambda root: [root]
texts = lambda root: [e for e in drawn(root, "text") if " " in e.text]
spoken = lambda root: drawn(root, "text")
open_lines = lambda root: [e for e in lined(root) if "Z" not in e.get("d")]
closed_lines = lambda root: [e for e in lined(root) if e.get("d").endswith("Z") and "A" not in e.get("d")]
circles = lambda root: drawn(root, "circle")
grounds = lambda root: [root.find(S + "rect")]
groups = lambda root: root.findall(S + "g")

# ---------------------------------------------------------------- effects, on the root, a group, an element
HALF = new("clipPath", id="half")
HALF.append(new("rect", x="0", y="0", width="90", height="100"))
SOFT = new("filter", id="soft")
SOFT.append(new("feGaussianBlur", stdDeviation="2"))
VEIL = new("mask", id="veil")
VEIL.append(new("rect", x="0", y="0", width="200", height="100", fill="#888"))
ARROW = new("marker", id="tip", markerWidth="9", markerHeight="9")
ARROW.append(new("path", d="M0 0L4 4L0 4Z"))


def effect(place, pick):
    shows = {
        "opacity": {"opacity": "0.5"}, "hidden": {"display": "none"}, "unseen": {"visibility": "hidden"},
        "collapsed": {"visibility": "collapse"}, "moved": {"transform": "translate(0.4 0)"}, "skewed": {"transform": "skewX(4)"},
        "mixed": {"style": "mix-blend-mode:difference"}, "css opacity": {"style": "opacity:.4"},
        "css move": {"style": "transform:translate(3px,0)"}, "css translate": {"style": "translate:3px"},
        "css rotate": {"style": "rotate:5deg"}, "css scale": {"style": "scale:1.2"}, "css hidden": {"style": "display:none!important"},
        "css clip shape": {"style": "clip-path:circle(9px at 3px 3px)"}, "css blur": {"style": "filter:blur(2px)"},
        "css mask": {"style": "mask-image:linear-gradient(#000,transparent)"}, "css path of motion": {"style": "offset-path:path('M0 0L9 9');offset-distance:50%"},
        "css zoom": {"style": "zoom:1.2"}, "all unset": {"style": "all:unset"}, "far": {"style": "perspective:20px;transform:rotateX(40deg)"},
        "animated by css": {"style": "animation:fade 1s forwards"}, "variable": {"style": "--o:.3;opacity:var(--o)"},
        "reckoned": {"style": "opacity:calc(1 - .6)"},
    }
    for name, attributes in shows.items():
        on(pick, "fault", f"{name} on {place}", **attributes)
    for name, attribute, what in (("clipped", "clip-path", HALF), ("blurred", "filter", SOFT), ("veiled", "mask", VEIL)):
        def act(root, rnd, attribute=attribute, what=what):
            root.insert(0, copy.deepcopy(what))
            rnd.choice(pick(root)).set(attribute, f"url(#{what.get('id')})")
        kinds["fault"][f"{name} on {place}"] = act
    if place != "the root":
        for name, attributes in {"of another language": {"systemLanguage": "tlh"}, "of an extension": {"requiredExtensions": "http://example.org/x"}}.items():
            on(pick, "fault", f"{name} on {place}", **attributes)


effect("the root", whole)
effect("a group", groups)
effect("an element", drawn)

# ---------------------------------------------------------------- how lines, fills and letters look
on(closed_lines, "fault", "miter cut off", stroke_miterlimit="1")
on(closed_lines, "fault", "corners round", stroke_linejoin="round")
on(closed_lines, "fault", "corners beveled by css", style="stroke-linejoin:bevel")
on(open_lines, "fault", "ends round", stroke_linecap="round")
on(open_lines, "fault", "ends square by css", style="stroke-linecap:square")
on(lined, "fault", "dashes", stroke_dasharray="2 1")
on(lined, "fault", "line of the screen", vector_effect="non-scaling-stroke")
on(lined, "fault", "line opacity", stroke_opacity="0.5")
on(filled, "fault", "fill opacity", fill_opacity="0.5")
on(circles, "fault", "line beneath its fill", paint_order="stroke")
on(circles, "fault", "circle larger by css", style="r:12px")
on(circles, "fault", "circle elsewhere by css", style="cx:150px")
on(lined, "fault", "path by css", style="d:path('M0 0L50 50')")
on(lined, "fault", "line from a variable", style="stroke:var(--no,#ff0000)")
on(lined, "fault", "line of the text’s colour", style="stroke:currentColor;color:#f00")
on(filled, "fault", "fill by the surroundings", fill="context-stroke")
on(filled, "fault", "fill important", style="fill:#ff00ff!important")
for place, pick in (("the root", whole), ("a text", texts)):
    for name, words in {
        "small capitals": "font-variant:small-caps", "small capitals by features": "font-feature-settings:'smcp'", "condensed": "font-stretch:condensed",
        "stretched": "font-stretch:150%", "slanted": "font-style:oblique", "underlined": "text-decoration:underline",
        "from right to left": "direction:rtl;unicode-bidi:bidi-override", "downwards": "writing-mode:vertical-rl", "spaced": "letter-spacing:1px",
        "words apart": "word-spacing:3px", "heavier by its axes": "font-variation-settings:'wght' 900", "capitals": "text-transform:uppercase",
        "adjusted": "font-size-adjust:.9", "emphasised": "text-emphasis:circle", "in shadow": "text-shadow:2px 2px red",
        "without kerning and ligatures turned": "text-orientation:upright;writing-mode:tb",
    }.items():
        css(pick, "fault", f"{name} on {place}", words)
on(texts, "fault", "letters turned one by one", rotate="20")
on(texts, "fault", "letters put one by one", dx="0 3")
on(texts, "fault", "pressed to a length", textLength="30", lengthAdjust="spacingAndGlyphs")
on(texts, "fault", "line in the middle", dominant_baseline="middle")
on(texts, "fault", "shorthand", style="font:italic 9px serif")
on(spoken, "fault", "line on letters", stroke="#ff0000", stroke_width="0.4")


@kind("fault", "raised words")
def raised(root, rnd):
    one = rnd.choice(texts(root))
    span = new("tspan", one.text, baseline_shift="super")
    one.text = None
    one.append(span)


@kind("fault", "words on a path")
def along(root, rnd):
    one = rnd.choice(texts(root))
    defs(root).append(new("path", id="way", d="M20 20L90 60"))
    way = new("textPath", one.text, href="#way")
    one.text = None
    one.append(way)


@kind("fault", "a part of a text elsewhere")
def part(root, rnd):
    one = rnd.choice(texts(root))
    at = one.text.index(" ")
    span = new("tspan", one.text[at:], dy="1")
    one.text = one.text[:at]
    one.append(span)


@kind("fault", "a text’s end elsewhere")
def ends(root, rnd):
    one = rnd.choice(spoken(root))
    one.set("font-size", str(float(one.get("font-size")) * 1.01))


@kind("fault", "tip at the end of a line")
def tipped(root, rnd):
    defs(root).append(copy.deepcopy(ARROW))
    rnd.choice(open_lines(root)).set("marker-end", "url(#tip)")


@kind("fault", "tip by css")
def tipped_css(root, rnd):
    defs(root).append(copy.deepcopy(ARROW))
    rnd.choice(open_lines(root)).set("style", "marker:url(#tip)")


# ---------------------------------------------------------------- the ground
for name, attributes in {"hidden": {"display": "none"}, "see-through": {"opacity": "0.4"}, "round": {"rx": "20"}, "moved": {"x": "1"}, "short": {"width": "198"},
                         "another colour": {"fill": "#f7f0d2"}, "moved by transform": {"transform": "translate(2)"}, "round by css": {"style": "rx:20px"},
                         "see-through fill": {"fill-opacity": ".5"}, "with a line": {"stroke": "#000", "stroke-width": "1"}}.items():
    on(grounds, "fault", f"ground {name}", **attributes)


@kind("fault", "ground on top")
def ground_on_top(root, rnd):
    root.append(grounds(root)[0])


@kind("fault", "ground gone")
def ground_gone(root, rnd):
    root.remove(grounds(root)[0])


# ---------------------------------------------------------------- what moves, listens, comes from elsewhere
def inside(which, name, make):
    def act(root, rnd):
        rnd.choice(drawn(root, "path", "circle")).append(make())
    kinds[which][name] = act


inside("fault", "fades", lambda: new("animate", attributeName="opacity", to="0", dur="1s", fill="freeze"))
inside("fault", "is set", lambda: new("set", attributeName="display", to="none", begin="0s"))
inside("fault", "wanders", lambda: new("animateTransform", attributeName="transform", type="rotate", to="90", dur="1s", fill="freeze"))
inside("fault", "runs along", lambda: new("animateMotion", path="M0 0L50 50", dur="1s", fill="freeze"))
sheet("fault", "sheet of rules for all", "*{opacity:.5}")
sheet("fault", "sheet of rules for paths", "path{stroke-width:2px}")
sheet("fault", "sheet for print", "@media print{path{display:none}}")
sheet("fault", "sheet for a width", "@media (min-width:1px){path{fill:red!important}}")
sheet("fault", "sheet if supported", "@supports (display:grid){path{opacity:.2}}")
sheet("fault", "sheet in a layer", "@layer a{path{opacity:.2!important}}")
sheet("fault", "sheet from elsewhere", "@import url('other.css');")
sheet("fault", "face from elsewhere", "@font-face{font-family:Commissioner;src:url(x.woff2)}")
sheet("fault", "sheet by children", "svg>g:nth-child(2) path{display:none}g>path{stroke:#f0f!important}")
sheet("fault", "sheet by attribute", "[fill=none]{stroke-opacity:.3}")
sheet("fault", "sheet by not", "path:not([id]){opacity:.4}")
sheet("fault", "sheet by is", ":is(path,text){opacity:.4}")
sheet("fault", "nested sheet", "g{path{opacity:.4}}")
sheet("fault", "root by sheet", ":root{opacity:.4}")
sheet("fault", "moved by frames", "@keyframes k{to{opacity:0}}path{animation:k 1s forwards}")
sheet("fault", "sheet after a comment", "/* path{} */ circle{fill:#00ff00!important}")


@kind("fault", "sheet by instruction")
def sheet_by_instruction(root, rnd):
    root.addprevious(etree.ProcessingInstruction("xml-stylesheet", 'href="other.css" type="text/css"'))


@kind("fault", "script")
def script(root, rnd):
    root.append(new("script", "document.documentElement.style.opacity=.2"))


@kind("fault", "runs when it loads")
def onload(root, rnd):
    root.set("onload", "this.style.opacity=.2")


@kind("fault", "page within")
def foreign(root, rnd):
    box = new("foreignObject", x="10", y="10", width="80", height="30")
    html = etree.SubElement(box, "{http://www.w3.org/1999/xhtml}p")
    html.text = "Words of a page"
    root.append(box)


@kind("fault", "picture of another file")
def picture(root, rnd):
    root.append(new("image", x="10", y="10", width="40", height="30", href="other.png"))


@kind("fault", "picture that is a drawing")
def drawing(root, rnd):
    one = new("image", x="10", y="10", width="40", height="30")
    one.set("href", "data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 4 3'%3E%3Crect width='4' height='3'/%3E%3C/svg%3E")
    root.append(one)


@kind("fault", "drawn from another file")
def elsewhere(root, rnd):
    root.append(new("use", href="other.svg#a"))


@kind("fault", "used once more")
def used(root, rnd):
    one = rnd.choice(drawn(root, "path", "circle"))
    one.set("id", "again")
    root.append(new("use", href="#again", x="3"))


@kind("fault", "in an element that nobody knows")
def unknown(root, rnd):
    one = rnd.choice(drawn(root, "path", "circle"))
    box = new("shape")
    one.addprevious(box)
    box.append(one)


@kind("fault", "in an element of another name")
def foreign_name(root, rnd):
    one = rnd.choice(drawn(root, "path", "circle"))
    box = etree.Element("{http://example.org/mine}group")
    one.addprevious(box)
    box.append(one)


@kind("fault", "first of two ways")
def switched(root, rnd):
    one = rnd.choice(drawn(root, "path", "circle"))
    box = new("switch")
    one.addprevious(box)
    other = copy.deepcopy(one)
    other.set("transform", "translate(3)")
    box.extend([other, one])


def view(which, name, **attributes):
    def act(root, rnd):
        box = new("svg", **attributes)
        for one in list(root):
            if one.tag != S + "defs":
                box.append(one)
        root.insert(0, box)
    kinds[which][name] = act


view("fault", "within a smaller view", width="90", height="100")
view("fault", "within a scaled view", x="0", y="0", width="200", height="100", viewBox="0 0 210 105")
view("fault", "within a stretched view", width="200", height="100", viewBox="0 0 200 90", preserveAspectRatio="none")
view("fault", "within a moved view", x="2", y="0", width="200", height="100", overflow="visible")
view("fault", "within a view of nothing", width="0", height="100")
on(whole, "fault", "another corner", viewBox="1 0 200 100")
on(whole, "fault", "wider", width="201mm")
on(whole, "fault", "in inches", width="200in", height="100in")
on(whole, "fault", "sliced", viewBox="0 0 200 120", preserveAspectRatio="xMidYMid slice")
on(whole, "fault", "italics for all", font_style="italic")
on(whole, "fault", "round corners for all", stroke_linejoin="round")
on(whole, "fault", "dashes for all", stroke_dasharray="2 1")
on(whole, "fault", "ends for all", style="stroke-linecap:round")


@kind("fault", "default of a declaration")
def declared(root, rnd):
    return b'<!DOCTYPE svg [<!ATTLIST path opacity CDATA "0.3">]>'


@kind("fault", "words of a declaration")
def declared_words(root, rnd):
    rnd.choice(texts(root)).text = "QQ"
    return ("replace", b"QQ", b"&more;", b'<!DOCTYPE svg [<!ENTITY more "Other words">]>')


# ---------------------------------------------------------------- stretches, dots, regions
def points(one):
    return [tuple(map(float, pair)) for pair in re.findall(r"[ML](-?[\d.]+) (-?[\d.]+)", one.get("d"))]


@kind("fault", "a side again")
def side_again(root, rnd):
    one = rnd.choice(closed_lines(root))
    (x, y), (u, v) = points(one)[:2]
    again = copy.deepcopy(one)
    again.set("d", f"M{x} {y}L{u} {v}")
    one.addnext(again)


@kind("fault", "a side six times")
def side_six(root, rnd):
    one = rnd.choice(closed_lines(root))
    (x, y), (u, v) = points(one)[:2]
    one.set("d", one.get("d") + f"M{x} {y}" + f"L{u} {v}L{x} {y}" * 3)


@kind("fault", "a stretch of a side again")
def stretch_again(root, rnd):
    one = rnd.choice(closed_lines(root))
    (x, y), (u, v) = points(one)[:2]
    a, b = 0.3, 0.3 + 1 / max(1, abs(u - x) + abs(v - y))
    one.set("d", one.get("d") + f"M{x + a * (u - x)} {y + a * (v - y)}L{x + b * (u - x)} {y + b * (v - y)}")


@kind("fault", "a gap")
def gap(root, rnd):
    one = rnd.choice(closed_lines(root))
    spots = points(one)
    (x, y), (u, v) = spots[0], spots[-1]
    far = max(abs(u - x), abs(v - y))
    one.set("d", one.get("d")[:-1] + f"L{x + (u - x) * 0.075 / far} {y + (v - y) * 0.075 / far}")


@kind("fault", "run over its end")
def overrun(root, rnd):
    one = rnd.choice(closed_lines(root))
    (x, y), (u, v) = points(one)[:2]
    far = max(abs(u - x), abs(v - y))
    one.set("d", one.get("d")[:-1] + f"L{x} {y}L{x + (u - x) * 0.5 / far} {y + (v - y) * 0.5 / far}")


@kind("fault", "a dot of a wide line")
def dot(root, rnd):
    root.append(new("path", d=f"M{rnd.uniform(20, 180)} 50l.004 0", stroke="#c23b22", stroke_width="5", fill="none"))


@kind("fault", "a dot of round ends")
def round_dot(root, rnd):
    root.append(new("path", d=f"M{rnd.uniform(20, 180)} 50Z", stroke="#c23b22", stroke_width="5", stroke_linecap="round"))


@kind("fault", "a patch of one colour")
def patch(root, rnd):
    x = rnd.uniform(20, 180)
    root.append(new("path", d=f"M{x} 48L{x + 2} 48L{x + 2} 50L{x} 50Z", fill="#e7e0c2"))


@kind("fault", "a hole filled")
def hole(root, rnd):
    one = next(e for e in filled(root) if e.get("d").count("M") > 1)
    one.set("d", re.match(r"[^Z]*Z", one.get("d")).group())


@kind("fault", "a fill cut by a hair")
def hair(root, rnd):
    one = rnd.choice([e for e in filled(root) if e.get("d").count("M") == 1])
    (x, y), (u, v) = points(one)[:2]
    one.set("d", one.get("d")[:-1] + f"M{(x + u) / 2 - .2} {(y + v) / 2 - .2}l.4 0l0 .4l-.4 0Z")
    one.set("fill-rule", "evenodd")


@kind("fault", "two fills exchanged")
def exchanged(root, rnd):
    one = next(e for e in filled(root) if e.getnext() is not None and e.getnext() in filled(root))
    one.getnext().addnext(one)


# ---------------------------------------------------------------- without harm
for name, attributes in {
    "overflow said": {"overflow": "hidden"}, "profile said": {"baseProfile": "full"}, "place said": {"x": "0", "y": "0"},
    "zoom said": {"zoomAndPan": "magnify"}, "script kind said": {"contentScriptType": "text/ecmascript"}, "ratio said": {"preserveAspectRatio": "xMidYMid meet"},
    "white space said": {"{http://www.w3.org/XML/1998/namespace}space": "preserve"}, "language said": {"{http://www.w3.org/XML/1998/namespace}lang": "en"},
    "ground of effects": {"enable-background": "new 0 0 200 100"}, "named": {"id": "drawing", "class": "a b"}, "sized in pixels": {"width": "755.9055118", "height": "377.9527559"},
    "described": {"role": "img", "aria-label": "A board", "tabindex": "0"}, "data": {"data-x": "1"}, "colours said": {"color-interpolation": "sRGB", "color": "#123456"},
    "own order": {"style": "isolation:isolate"},
}.items():
    def act(root, rnd, attributes=attributes):
        for key, value in attributes.items():
            root.set(key, value)
    kinds["same"][name] = act
for name, attributes in {
    "named": {"id": "one", "class": "x y"}, "data": {"data-name": "Side"}, "language": {"lang": "de"}, "opaque": {"opacity": "1"}, "opaque of a hundred": {"opacity": "100%"},
    "shown": {"visibility": "visible", "display": "inline"}, "moved by nothing": {"transform": "translate(0)"}, "turned by nothing about something": {"transform": "rotate(0 5 5)"},
    "clipped by nothing": {"clip-path": "none", "mask": "none", "filter": "none"}, "pointed at": {"pointer-events": "none", "cursor": "pointer"},
    "edges": {"shape-rendering": "geometricPrecision"}, "rule": {"clip-rule": "evenodd"}, "origin": {"transform-origin": "5px 5px"},
    "dash offset without dashes": {"stroke-dashoffset": "3"}, "length of a path": {"pathLength": "100"}, "dashes none": {"stroke-dasharray": "none"},
    "mixing as ever": {"style": "mix-blend-mode:normal;isolation:auto"}, "focus": {"tabindex": "0", "focusable": "false"}, "aria": {"aria-hidden": "true"},
    "limit as ever": {"stroke-miterlimit": "4"}, "joins as ever": {"stroke-linejoin": "miter", "stroke-linecap": "butt"}, "order as ever": {"paint-order": "normal"},
    "other program": {"{http://example.org/x}kind": "leaf"}, "will change": {"style": "will-change:transform"}, "transition": {"style": "transition:all 1s"},
    "no markers": {"marker-start": "none", "marker-end": "none"}, "variable unused": {"style": "--unused:3"}, "vector effect none": {"vector-effect": "none"},
    "outline none": {"style": "outline:none"}, "user select": {"style": "user-select:none"}, "position": {"style": "width:auto"},
}.items():
    on(lambda root: drawn(root, "path", "circle"), "same", f"{name} on an element", **attributes)
for name, attributes in {
    "rendering": {"text-rendering": "optimizeLegibility"}, "stretch as ever": {"font-stretch": "normal", "font-variant": "normal", "font-style": "normal"}, "kerning": {"font-kerning": "auto"},
    "decoration none": {"text-decoration": "none"}, "direction": {"direction": "ltr", "writing-mode": "lr-tb"}, "spacing none": {"letter-spacing": "normal", "word-spacing": "0"},
    "baseline": {"dominant-baseline": "auto", "baseline-shift": "baseline"}, "weight": {"font-weight": "400"}, "transform none": {"style": "text-transform:none;white-space:pre"},
    "length said": {"lengthAdjust": "spacing"}, "css place": {"style": "x:50px;y:3px"}, "line height": {"style": "line-height:1.25;-x-note:1"},
}.items():
    on(spoken, "same", f"{name} on a text", **attributes)


@kind("same", "one part of a text")
def one_part(root, rnd):
    one = rnd.choice(spoken(root))
    span = new("tspan", one.text)
    one.text = None
    one.append(span)


@kind("same", "text in two parts")
def two_parts(root, rnd):
    one = rnd.choice(texts(root))
    at = one.text.index(" ") + 1
    span = new("tspan", one.text[at:])
    one.text = one.text[:at]
    one.append(span)


@kind("same", "note within a text")
def noted(root, rnd):
    one = rnd.choice(texts(root))
    note = etree.Comment("x")
    note.tail = one.text[3:]
    one.text = one.text[:3]
    one.insert(0, note)


@kind("same", "text with a title")
def titled(root, rnd):
    one = rnd.choice(drawn(root))
    one.insert(0, new("title", "A name"))
    if one.tag == S + "text":
        one[0].tail, one.text = one.text, None


for name, make in {
    "unused clip": lambda: HALF, "unused filter": lambda: SOFT, "unused mask": lambda: VEIL, "unused marker": lambda: ARROW, "view": lambda: new("view", id="v", viewBox="0 0 9 9"),
    "description": lambda: new("desc", "A board"), "sheet of nothing": lambda: new("style", "/* nothing */"), "sheet for nobody": lambda: new("style", ".nobody{opacity:.3}"),
    "hidden group": lambda: hidden_group(), "path of nothing": lambda: new("path", d=""), "path without colour": lambda: new("path", d="M3 3L50 50", fill="none"),
    "line of no width": lambda: new("path", d="M3 3L50 50", fill="none", stroke="#f00", stroke_width="0"), "see-through circle": lambda: new("circle", cx="50", cy="50", r="20", opacity="0"),
    "transparent": lambda: new("circle", cx="50", cy="50", r="20", fill="transparent"), "rect without width": lambda: new("rect", x="3", y="3", width="0", height="9"),
    "circle without radius": lambda: new("circle", cx="50", cy="50", r="0"), "empty group": lambda: new("g", opacity=".5"), "text of nothing": lambda: new("text", "", x="5", y="5"),
    "unseen text": lambda: new("text", "secret", x="5", y="50", visibility="hidden"), "fill of no opacity": lambda: new("circle", cx="50", cy="50", r="20", fill_opacity="0"),
    "symbol that nobody uses": lambda: unused_symbol(), "sheet for its own kind": lambda: new("style", "x", type="text/plain"), "line that has no length": lambda: new("path", d="M9 9L9 9", stroke="#f00", fill="none", stroke_width="3"),
    "image without size": lambda: new("image", x="1", y="1", width="0", height="3", href="x.png"), "use of nothing there": lambda: new("use", href="#nowhere"),
    "notes of another program": lambda: etree.fromstring('<x:view xmlns:x="http://example.org/x"><x:grid/></x:view>'),
}.items():
    def act(root, rnd, make=make):
        root.append(copy.deepcopy(make()))
    kinds["same"][name] = act


def hidden_group():
    box = new("g", display="none")
    box.append(new("circle", cx="50", cy="50", r="20"))
    return box


def unused_symbol():
    box = new("symbol", id="nobody")
    box.append(new("circle", cx="50", cy="50", r="20"))
    return box


@kind("same", "wrapped in groups")
def wrapped(root, rnd):
    one = rnd.choice(drawn(root))
    box = new("g")
    one.addprevious(box)
    box.append(one)


@kind("same", "wrapped in a link")
def link(root, rnd):
    one = rnd.choice(drawn(root))
    box = new("a", href="https://example.org")
    one.addprevious(box)
    box.append(one)


@kind("same", "the only way of a choice")
def choice(root, rnd):
    one = rnd.choice(drawn(root))
    box = new("switch")
    one.addprevious(box)
    box.append(one)


view("same", "within a view as large", x="0", y="0", width="200", height="100")
view("same", "within a view of all", width="100%", height="100%")
view("same", "within a view in other units", width="200", height="100", viewBox="0 0 200 100")


@kind("same", "used instead")
def used_instead(root, rnd):
    one = rnd.choice(drawn(root, "path", "circle"))
    one.set("id", "it")
    one.addprevious(new("use", href="#it"))
    defs(root).append(one)


def used_by(prefix):
    def change(root, rnd):
        one = rnd.choice(drawn(root, "path", "circle"))
        one.set("id", "it")
        use = etree.Element(S + "use", nsmap={prefix: XLINK})
        use.set("{%s}href" % XLINK, "#it")
        one.addprevious(use)
        defs(root).append(one)
    return change


kind("same", "used by the old name")(used_by("xlink"))
kind("same", "used by the old name, called otherwise")(used_by("ref"))


@kind("same", "moved there and back")
def there_and_back(root, rnd):
    one = rnd.choice(drawn(root))
    box = new("g", transform="translate(30 -7) rotate(20)")
    inner = new("g", transform="rotate(-20) translate(-30 7)")
    one.addprevious(box)
    box.append(inner)
    inner.append(one)


@kind("same", "in other units")
def other_units(root, rnd):
    one = rnd.choice(drawn(root))
    box = new("g", transform="scale(0.1)")
    inner = new("g", transform="scale(10)")
    one.addprevious(box)
    box.append(inner)
    inner.append(one)


@kind("same", "closed although it need not be")
def unclosed(root, rnd):
    one = rnd.choice(filled(root))
    one.set("d", one.get("d").rstrip("Z"))


@kind("same", "a fill begun elsewhere")
def begun(root, rnd):
    one = rnd.choice([e for e in filled(root) if e.get("d").count("M") == 1])
    spots = points(one)
    spots = spots[1:] + spots[:1]
    one.set("d", "M" + "L".join(f"{x} {y}" for x, y in spots) + "Z")


@kind("same", "a fill in two halves")
def halves(root, rnd):
    one = rnd.choice([e for e in filled(root) if e.get("d").count("M") == 1 and len(points(e)) == 4])
    a, b, c, d = points(one)
    other = copy.deepcopy(one)
    one.set("d", "M" + "L".join(f"{x} {y}" for x, y in (a, b, c)) + "Z")
    other.set("d", "M" + "L".join(f"{x} {y}" for x, y in (a, c, d)) + "Z")
    one.addnext(other)


@kind("same", "a hole by a bridge")
def bridge(root, rnd):
    one = next(e for e in filled(root) if e.get("d").count("M") > 1)
    outer, inner = [re.findall(r"[ML](-?[\d.]+) (-?[\d.]+)", part) for part in one.get("d").split("Z")[:2]]
    ring = outer + outer[:1] + inner + inner[:1]
    one.set("d", "M" + "L".join(" ".join(spot) for spot in ring) + "Z")


@kind("same", "other fill rule")
def rule(root, rnd):
    rnd.choice(filled(root)).set("fill-rule", "evenodd")


def split(root, rnd):
    """A filled and lined circle in two: the fill, and the line as an element of its own."""
    one = rnd.choice(circles(root))
    line = copy.deepcopy(one)
    line.set("fill", "none")
    for name in ("stroke", "stroke-width"):
        del one.attrib[name]
    return one, line


@kind("fault", "a line under its fill")
def under(root, rnd):
    one, line = split(root, rnd)
    one.addprevious(line)


@kind("fault", "something between a fill and its line")
def between(root, rnd):
    one, line = split(root, rnd)
    x, y, r = (float(one.get(name)) for name in ("cx", "cy", "r"))
    one.addnext(line)
    one.addnext(new("rect", x=x - r, y=y - r, width=r, height=2 * r, fill="#101010"))


@kind("fault", "a line away from its fill")
def away(root, rnd):
    one, line = split(root, rnd)
    line.set("cx", str(float(line.get("cx")) + 0.5))
    one.addnext(line)


@kind("fault", "a line apart in another colour")
def apart_recoloured(root, rnd):
    one, line = split(root, rnd)
    line.set("stroke", "#0a7d0a")
    one.addnext(line)


@kind("same", "line and fill apart")
def apart(root, rnd):
    one, line = split(root, rnd)
    one.addnext(line)


@kind("same", "a line in two pieces")
def pieces(root, rnd):
    one = rnd.choice([e for e in open_lines(root) if "C" not in e.get("d")])
    spots = points(one)
    (x, y), (u, v) = spots[:2]
    a, b = (x + u) / 2, (y + v) / 2
    one.set("d", f"M{x} {y}L{a} {b}L{u} {v}")


@kind("same", "an order that nobody sees")
def order(root, rnd):
    one = [e for e in lined(root) if e.getnext() is not None][0]
    one.getnext().addnext(one)


@kind("same", "percentages")
def percentages(root, rnd):
    one = rnd.choice(circles(root))
    one.set("cx", f"{float(one.get('cx')) / 2}%")


@kind("same", "lengths in mm")
def lengths(root, rnd):
    one = rnd.choice(lined(root))
    one.set("stroke-width", str(float(one.get("stroke-width")) * 10 / 10) + "px")


def run():
    for which, acts in kinds.items():
        for name, act in acts.items():
            for number in range(EACH):
                rnd = random.Random(f"{SEED} {name} {number}")
                root = etree.fromstring(SOURCE)
                extra = act(root, rnd)
                data = etree.tostring(root.getroottree(), xml_declaration=True, encoding="UTF-8")
                if isinstance(extra, bytes):
                    data = data.replace(b"?>", b"?>" + extra, 1)
                elif isinstance(extra, tuple):
                    _, old, replaced, head = extra
                    data = data.replace(old, replaced).replace(b"?>", b"?>" + head, 1)
                put(which, name, data, number)
    root = etree.fromstring(SOURCE).getroottree()
    words = etree.tostring(root, encoding="unicode")
    put("same", "UTF-16", ('<?xml version="1.0" encoding="UTF-16"?>' + words).encode("utf-16"), 0)
    put("same", "UTF-16 without a name", words.encode("utf-16"), 0)
    put("same", "byte order mark", b"\xef\xbb\xbf" + words.encode(), 0)
    put("same", "Latin 1", etree.tostring(root, xml_declaration=True, encoding="ISO-8859-1"), 0)
    put("same", "ASCII", etree.tostring(root, xml_declaration=True, encoding="ASCII"), 0)
    put("same", "canonical", etree.tostring(root, method="c14n"), 0)
    put("same", "indented", etree.tostring(root, pretty_print=True), 0)
    put("same", "document type", b'<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd">' + words.encode(), 0)
    put("same", "unknown instruction", b"<?note x?>" + words.encode(), 0)
    prefixed = re.sub(r"<(/?)([a-zA-Z])", r"<\1s:\2", words).replace("xmlns=", "xmlns:s=")
    put("same", "another prefix", prefixed.encode(), 0)
    put("same", "letters as numbers", words.replace(">Sedge", ">&#x53;&#101;dge").encode(), 0)
    put("same", "letters as they are", words.replace(">Sedge Loop", "><![CDATA[Sedge]]> Loop").encode(), 0)


def put(which, name, data, number):
    path = f"{which}-{name}-{number}.svg"
    with open(path, "wb") as out:
        out.write(data)
    names.append(path)


run()
print(json.dumps(names))
