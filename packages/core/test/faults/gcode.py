"""Spoils a machine program, and re-writes it without harm, as a list of lines that shares nothing with ours.

Takes a.gcode in this folder, a seed and how often each; writes fault-*.gcode and same-*.gcode, and prints their names.
"""
import json
import math
import random
import re
import sys

SEED, EACH = int(sys.argv[1]), int(sys.argv[2])
SOURCE = open("a.gcode", encoding="latin-1").read()
LINES = SOURCE.split("\n")
names = []
acts = {"fault": {}, "same": {}}


def act(which, name):
    def keep(do):
        acts[which][name] = do
        return do
    return keep


class Block:
    """A line with what a control is set to after it, and where its tool is before and after."""

    def __init__(self, number, line, words, motion, before, after):
        self.number, self.line, self.words, self.motion, self.before, self.after = number, line, words, motion, before, after

    @property
    def moves(self):
        return any(a in self.words for a in "XYZIJ")


def walked(lines):
    """All lines of words, walked by a control of mm and places, as they are written here."""
    motion, at, out = None, [None, None, None], []
    for number, line in enumerate(lines):
        plain = re.sub(r"\([^)]*\)", "", line).strip()
        words = {}
        for letter, value in re.findall(r"([A-Z])\s*(-?[\d.]+)", plain):
            if letter == "G" and float(value) <= 3:
                motion = int(float(value))
            elif letter != "G":
                words[letter] = float(value)
        before = list(at)
        for k, axis in enumerate("XYZ"):
            if axis in words:
                at[k] = words[axis]
        if plain and plain != "%":
            out.append(Block(number, line, words, motion, before, list(at)))
    return out


BLOCKS = walked(LINES)
MOVES = [b for b in BLOCKS if b.moves]
ARCS = [b for b in MOVES if b.motion in (2, 3)]
CUTS = [b for b in MOVES if b.motion == 1 and ("X" in b.words or "Y" in b.words)]
PLUNGES = [b for b in MOVES if b.motion == 1 and "Z" in b.words]
RAPIDS = [b for b in MOVES if b.motion == 0 and ("X" in b.words or "Y" in b.words)]
LIFTS = [b for b in MOVES if b.motion == 0 and "Z" in b.words]
CHANGES = [b for b in BLOCKS if re.search(r"\bM6\b", b.line)]
END = next(b for b in BLOCKS if re.match(r"M2\b", b.line))


def num(value):
    text = f"{value:.4f}".rstrip("0")
    return "0." if text == "-0." else text


def spelled(b, words=None, motion=None):
    """The line of a move, all said: motion, places, centre."""
    w = b.words if words is None else words
    return f"G{b.motion if motion is None else motion} " + " ".join(f"{k}{num(w[k])}" for k in "XYZIJRF" if k in w)


def motion_said(lines, number):
    """So that what follows a line means what it meant, its motion is said once more."""
    following = [b for b in MOVES if b.number > number]
    if following:
        b = following[0]
        lines[b.number] = spelled(b) + (" F" + re.search(r"F([\d.]+)", b.line).group(1) if "F" in b.words and "F" not in spelled(b) else "")


def on(which, name, pool, change, said=True):
    """Changes one line of a pool; change gives its new text, lines apart by line ends, or None to take it away."""
    @act(which, name)
    def run(rnd):
        lines = list(LINES)
        b = rnd.choice(pool)
        if said:
            motion_said(lines, b.number)
        lines[b.number] = change(b, rnd)
        return "\n".join(line for line in lines if line is not None)


def on_pieces(which, name, change):
    """Changes the list of lines."""
    @act(which, name)
    def run(rnd):
        return "\n".join(change(list(LINES), rnd))


def word(b, letter, by):
    words = dict(b.words)
    words[letter] = by(words[letter])
    return spelled(b, words)


def some(letters):
    return lambda pool: [b for b in pool if all(k in b.words for k in letters)]


both, deep = some("XY"), [b for b in PLUNGES if b.words["Z"] < 0]
sign = lambda rnd: rnd.choice([-1, 1])
for far in (0.05, 0.5, 5.0):
    on("fault", f"an end moved by {far} along x", [b for b in CUTS if "X" in b.words], lambda b, rnd, far=far: word(b, "X", lambda v: v + sign(rnd) * far))
    on("fault", f"an end moved by {far} along y", [b for b in CUTS if "Y" in b.words], lambda b, rnd, far=far: word(b, "Y", lambda v: v + sign(rnd) * far))
    on("fault", f"deeper by {far}", deep, lambda b, rnd, far=far: word(b, "Z", lambda v: v - far))
    on("fault", f"less deep by {far / 10}", deep, lambda b, rnd, far=far: word(b, "Z", lambda v: v + max(0.02, far / 10)))
on("fault", "a rapid to elsewhere", both(RAPIDS), lambda b, rnd: word(b, "X", lambda v: v + 3))
on("fault", "not lifted", LIFTS, lambda b, rnd: None)
on("fault", "lifted less", [b for b in LIFTS if b.words["Z"] > 0], lambda b, rnd: word(b, "Z", lambda v: v / 2))
on("fault", "lifted while it works", [b for b in LIFTS if b.words["Z"] > 0], lambda b, rnd: spelled(b, motion=1) + " F400.")
on("fault", "a rapid for a cut", CUTS, lambda b, rnd: spelled(b, motion=0))
on("fault", "a rapid for a plunge", deep, lambda b, rnd: spelled(b, motion=0))
on("fault", "a cut for a rapid", RAPIDS, lambda b, rnd: spelled(b, motion=1))
on("fault", "a cut gone", [b for b in both(CUTS)], lambda b, rnd: None)
on("fault", "an arc gone", ARCS, lambda b, rnd: None)
on("fault", "a plunge gone", deep, lambda b, rnd: None)
on("fault", "a cut twice, with a way back", both(CUTS), lambda b, rnd: f"{spelled(b)}\nG1 X{num(b.before[0])} Y{num(b.before[1])}\n{spelled(b)}")
on("fault", "a way around", both(CUTS), lambda b, rnd: f"G1 X{num(b.before[0] + 2)} Y{num(b.before[1] + 1)}\n{spelled(b)}")
on("fault", "an arc turned", ARCS, lambda b, rnd: spelled(b, motion=5 - b.motion))
on("fault", "an arc straightened", ARCS, lambda b, rnd: spelled(b, {k: v for k, v in b.words.items() if k not in "IJ"}, motion=1))
on("fault", "a line bent", both(CUTS), lambda b, rnd: spelled(b, {**b.words, "R": math.dist(b.before[:2], b.after[:2]) * 3}, motion=2))
on("fault", "a centre moved along x", [b for b in ARCS if "I" in b.words], lambda b, rnd: word(b, "I", lambda v: v + 0.5))
on("fault", "a centre moved along y", [b for b in ARCS if "J" in b.words], lambda b, rnd: word(b, "J", lambda v: v - 0.5))
on("fault", "the centre on the other side", ARCS, lambda b, rnd: spelled(b, {**b.words, **{k: -b.words[k] for k in "IJ" if k in b.words}}))
on("fault", "centre words exchanged", [b for b in ARCS if b.words.get("I") != b.words.get("J")], lambda b, rnd: spelled(b, {**{k: v for k, v in b.words.items() if k not in "IJ"}, "I": b.words.get("J", 0.0), "J": b.words.get("I", 0.0)}))


def radius(b):
    i, j = b.words.get("I", 0), b.words.get("J", 0)
    x, y = b.before[0] + i, b.before[1] + j
    start, end = math.atan2(-j, -i), math.atan2(b.after[1] - y, b.after[0] - x)
    sweep = (end - start) % (2 * math.pi) if b.motion == 3 else (start - end) % (2 * math.pi)
    return math.hypot(i, j), sweep or 2 * math.pi


# Nearly half turns and whole ones can't be said well by a radius.
SHORT = [b for b in ARCS if 0.2 < radius(b)[1] < 2.8]


def by_radius(b, turn=1, grow=1.0):
    words = {k: v for k, v in b.words.items() if k not in "IJ"}
    r, sweep = radius(b)
    return {**words, "R": turn * grow * r}


on("fault", "the long way round", SHORT, lambda b, rnd: spelled(b, by_radius(b, -1)))
on("fault", "a larger radius", SHORT, lambda b, rnd: spelled(b, by_radius(b, 1, 1.2)))
on("fault", "x for y", [b for b in both(CUTS) if abs(b.words["X"] - b.words["Y"]) > 1], lambda b, rnd: spelled(b, {**b.words, "X": b.words["Y"], "Y": b.words["X"]}))
on("fault", "a point shifted one place", [b for b in CUTS if abs(b.words.get("X", 0)) > 5], lambda b, rnd: word(b, "X", lambda v: v / 10))
on("fault", "a sign gone", deep, lambda b, rnd: word(b, "Z", abs))

FEEDS = [b for b in MOVES if "F" in b.words]
on("fault", "faster by a tenth", FEEDS, lambda b, rnd: word(b, "F", lambda v: v * 1.1))
on("fault", "slower by a hundredth", FEEDS, lambda b, rnd: word(b, "F", lambda v: v * 0.99))
on("fault", "plunging as fast as cutting", [b for b in deep if "F" in b.words], lambda b, rnd: word(b, "F", lambda v: 1234.0))
on("fault", "a feed that is another’s", [b for b in FEEDS if b.motion], lambda b, rnd: spelled(b, {k: v for k, v in b.words.items() if k != "F"}) + " F77.")


def swap(pattern, words, count=1, pick=False):
    def run(rnd):
        found = list(re.finditer(pattern, SOURCE, re.M))
        if not pick:
            return re.sub(pattern, words, SOURCE, count=count, flags=re.M)
        one = rnd.choice(found)
        return SOURCE[: one.start()] + one.expand(words) + SOURCE[one.end():]
    return run


for name, run in {
    "inches": swap("G21", "G20"), "steps": swap("G90", "G91"), "another plane": swap("G17", "G19"), "compensated": swap("G40", "G42"), "another zero point": swap("G54", "G57"), "feed by turns": swap("G94", "G95"), "feed by time": swap("G94", "G93"),
    "another tool": swap(r"T\d+ M6", "T9 M6", pick=True), "no change of tool": swap(r"T\d+ M6\n", "", pick=True), "tool named and not taken": swap(r"(T\d+) M6", r"\1", pick=True),
    "turning slower": swap(r"S\d+", "S8000", pick=True), "not turning": swap(r"S\d+ M3\n", "", pick=True), "turning the other way": swap(r"\bM3\b", "M4", pick=True), "speed alone": swap(r"(S\d+) M3", r"\1", pick=True),
    "no end": swap(r"^M2\n", ""), "more behind the end": swap(r"^M2\n", "M2\nG1 X5. Y5. F100.\n"), "a canned cycle": swap(r"^M2\n", "G83 X10. Y10. Z-5. R2. Q1. F100.\nM2\n"),
    "a call of a program": swap(r"^M5\n", "M98 P100\nM5\n"), "scaled by the machine": swap("G54", "G54 G51 P2."), "turned by the machine": swap("G54", "G54 G68 X0. Y0. R5."), "zero set anew": swap("G54", "G54 G92 X0. Y0."), "home at the end": swap(r"^M2\n", "G28 X0. Y0.\nM2\n"),
    "a length of tool": swap("G54", "G54 G43 H1"), "an axis more": swap(r"^M2\n", "G0 A90.\nM2\n"), "a block that may be skipped": swap(r"^(X[^\n]*)$", r"/\1", pick=True), "a macro": swap(r"^M5\n", "#1=5\nM5\n"),
    "a subroutine of its own": swap(r"^M2\n", "M2\nO200\nG1 X1. Y1. F100.\nM99\n"), "turning while the tool is changed": swap(r"^M5\n(?=[^%]*T\d+ M6)", "", pick=True), "lines of more turns of an arc": swap(r"^(G[23] [^\n]*I[^\n]*)$", r"\1 P3", pick=True),
    "a word twice": swap(r"^(X\S+) ", r"\1 X1. ", pick=True), "letters for digits": swap(r"^X(\d)", r"XO\1", pick=True), "dwell that nobody asked for": swap(r"^M5\n", "G4 P600.\nM5\n"), "thread cut": swap(r"^M5\n", "G33 Z-5. K1.\nM5\n"),
    "fast and exact": swap(r"^M5\n", "G61.1\nM5\n"), "a place in machine coordinates": swap(r"^M5\n", "G53 G0 Z0.\nM5\n"), "by angle": swap(r"^M5\n", "G16\nM5\n"), "probing": swap(r"^M5\n", "G38.2 Z-10. F50.\nM5\n"), "a digital output": swap(r"^M5\n", "M62 P1\nM5\n"),
}.items():
    acts["fault"][name] = run


@act("fault", "cut off in the middle")
def cut_off(rnd):
    at = rnd.choice([b for b in MOVES if 10 < b.number < len(LINES) - 20]).number
    return "\n".join(LINES[:at]) + "\n"


@act("fault", "cut off within a line")
def cut_within(rnd):
    at = rnd.choice(both([b for b in CUTS if b.number > 20]))
    return "\n".join(LINES[: at.number]) + "\n" + at.line[:-2]


def everywhere(change):
    """All places and centres, moved by a rule; centres go by what the rule does to steps."""
    def run(rnd):
        lines = list(LINES)
        for b in MOVES:
            words = dict(b.words)
            x, y = (b.after[0] or 0), (b.after[1] or 0)
            u, v = change(x, y)
            o, p = change(0, 0)
            if "X" in words or "Y" in words:
                words["X"], words["Y"] = u, v
            if "I" in words or "J" in words:
                i, j = change(words.get("I", 0), words.get("J", 0))
                words["I"], words["J"] = i - o, j - p
            lines[b.number] = spelled(b, words)
        return "\n".join(lines)
    return run


c, s = math.cos(0.01), math.sin(0.01)
for name, change in {
    "to the right by a twentieth": lambda x, y: (x + 0.05, y), "higher by 25.4": lambda x, y: (x, y + 25.4), "mirrored without turning arcs": lambda x, y: (300 - x, y), "a hundredth larger": lambda x, y: (x * 1.01, y * 1.01), "turned by half a degree": lambda x, y: (x * c - y * s, x * s + y * c),
    "inches said as millimetres": lambda x, y: (x / 25.4, y / 25.4),
}.items():
    acts["fault"]["all " + name] = everywhere(change)

# The work on objects: from the note with its name up to the next, with the tool's changes left where they are.
NOTES = [n for n, line in enumerate(LINES) if re.match(r"\((?!~)", line)]


def passes():
    """Runs of lines from one way down to the next within the same work."""
    out = []
    for a, b in zip(deep, deep[1:]):
        between = LINES[a.number:b.number]
        if len(between) > 1 and not any(re.search(r"M\d|^\(|G0", one) for one in between):
            out.append((a.number, b.number))
    return out


@act("fault", "a pass gone")
def pass_gone(rnd):
    a, b = rnd.choice(passes())
    lines = list(LINES)
    motion_said(lines, b - 1)
    return "\n".join(lines[:a] + lines[b:])


@act("fault", "a pass twice")
def pass_twice(rnd):
    # One that ends where it begins: along another the tool already is where it is sent.
    around = [(a, b) for a, b in passes() if (run := [m for m in MOVES if a <= m.number < b]) and run[0].before[:2] == run[-1].after[:2] and len(run) > 2]
    a, b = rnd.choice(around)
    lines = list(LINES)
    return "\n".join(lines[:b] + [spelled(next(m for m in MOVES if m.number == a))] + lines[a + 1:b] + lines[b:])


def works():
    """Work on one thing: goes there, works, is lifted. Each begins by a rapid, and ends before the next one."""
    return [(a.number, b.number) for a, b in zip(RAPIDS, RAPIDS[1:]) if not any(re.search(r"M\d|^\(", one) for one in LINES[a.number:b.number])]


def whole(a, b):
    """Lines of a stretch with their motion and feed said, so that they stand for themselves."""
    out = []
    feed = None
    for m in MOVES:
        if "F" in m.words:
            feed = m.words["F"]
        if a <= m.number < b:
            out.append(spelled(m, {**m.words, **({"F": feed} if m.motion and feed else {})}))
    return out


@act("fault", "work on two things exchanged")
def exchanged(rnd):
    all_works = works()
    pairs = [(p, q) for p, q in zip(all_works, all_works[1:]) if p[1] == q[0]]
    (a, b), (_, d) = rnd.choice(pairs)
    lines = list(LINES)
    motion_said(lines, d - 1)
    return "\n".join(lines[:a] + whole(b, d) + whole(a, b) + lines[d:])


@act("fault", "work on a thing gone")
def work_gone(rnd):
    a, b = rnd.choice(works())
    lines = list(LINES)
    motion_said(lines, b - 1)
    return "\n".join(lines[:a] + lines[b:])


@act("fault", "work on a thing twice")
def work_twice(rnd):
    a, b = rnd.choice(works())
    return "\n".join(LINES[:b] + whole(a, b) + LINES[b:])


@act("fault", "work on a thing backwards")
def backwards(rnd):
    lines = list(LINES)
    runs = []
    for m in MOVES:
        if m.motion in (1, 2, 3) and "Z" not in m.words:
            if runs and runs[-1][-1].number == m.number - 1:
                runs[-1].append(m)
            else:
                runs.append([m])
    run = rnd.choice([r for r in runs if len(r) >= 3 and r[0].before[:2] == r[-1].after[:2]])
    out = []
    for m in reversed(run):
        words = {"X": m.before[0], "Y": m.before[1]}
        if m.motion > 1:
            centre = (m.before[0] + m.words.get("I", 0), m.before[1] + m.words.get("J", 0))
            words["I"], words["J"] = centre[0] - m.after[0], centre[1] - m.after[1]
        out.append(spelled(m, words, motion=m.motion if m.motion == 1 else 5 - m.motion))
    if "F" in run[0].words:
        out[0] += f" F{num(run[0].words['F'])}"
    lines[run[0].number: run[-1].number + 1] = out
    return "\n".join(lines)


@act("fault", "a bridge gone")
def bridge(rnd):
    lines = list(LINES)
    # Up in the way while it works, and down again.
    ups = [m for m in MOVES if m.motion == 1 and "Z" in m.words and m.before[2] is not None and m.before[2] < m.words["Z"] < 0 and "X" not in m.words and "Y" not in m.words]
    m = rnd.choice(ups)
    lines[m.number] = "(no bridge)"
    return "\n".join(lines)


# ---------------------------------------------------------------- without harm
def each_line(change):
    return lambda rnd: "\n".join(line if not line or line.startswith(("(", "%")) else change(line, n) for n, line in enumerate(LINES))


def all_said(rnd):
    lines = list(LINES)
    for b in MOVES:
        lines[b.number] = spelled(b)
    return "\n".join(lines)


def feed_said(rnd):
    lines, feed = list(LINES), None
    for b in MOVES:
        feed = b.words.get("F", feed)
        if b.motion and feed:
            lines[b.number] = spelled(b, {**b.words, "F": feed})
    return "\n".join(lines)


def inches(rnd):
    """In inches, to six decimals."""
    def of(m):
        return f"{m.group(1)}{float(m.group(2)) / 25.4:.6f}"
    return "\n".join(line if line.startswith("(") else re.sub(r"([XYZIJF])(-?[\d.]+)", of, line).replace("G21", "G20") for line in LINES)


def in_steps(rnd):
    """From the first place on by steps; what came before stands."""
    lines, begun = list(LINES), False
    for b in MOVES:
        if None in b.before:
            continue
        words = dict(b.words)
        for k, axis in enumerate("XYZ"):
            if axis in words:
                words[axis] = words[axis] - b.before[k]
        lines[b.number] = ("" if begun else "G91\n") + spelled(b, words)
        begun = True
    return "\n".join(lines)


def radii(rnd):
    lines = list(LINES)
    for b in SHORT:
        words = by_radius(b)
        lines[b.number] = f"G{b.motion} " + " ".join(f"{k}{words[k]:.6f}" for k in "XYZRF" if k in words)
    return "\n".join(lines)


def shuffled(line, n):
    words = re.findall(r"[A-Z]-?[\d.]+", line)
    if not re.match(r"^(G[0-3] )?[XYZ]", line) or len(words) < 2:
        return line
    return " ".join(reversed(words))


def unsaid(rnd):
    """Places said again that are where the tool already is."""
    lines = list(LINES)
    for b in MOVES:
        if b.motion < 2 and None not in b.after:
            lines[b.number] = spelled(b, {**b.words, "X": b.after[0], "Y": b.after[1], "Z": b.after[2]})
    return "\n".join(lines)


for name, run in {
    "line ends of other machines": lambda rnd: SOURCE.replace("\n", "\r\n"), "line ends of old machines": lambda rnd: SOURCE.replace("\n", "\r"), "small letters": each_line(lambda line, n: line.lower()), "without blanks": each_line(lambda line, n: line.replace(" ", "")),
    "more blanks": each_line(lambda line, n: "  " + re.sub(r"(?<=[A-Z])(?=-?\d)", " ", line) + "  "), "numbers of lines": each_line(lambda line, n: f"N{n * 5} {line}"), "numbers of lines in one file of all the same": each_line(lambda line, n: f"N10 {line}"), "zeros before": each_line(lambda line, n: re.sub(r"\bG([0-3])\b", r"G0\1", line)),
    "zeros behind": each_line(lambda line, n: re.sub(r"(\.\d*)", r"\g<1>000", line)), "no zero before the point": each_line(lambda line, n: re.sub(r"(?<=[A-Z])(-?)0\.(?=\d)", r"\1.", line)), "whole numbers without a point": each_line(lambda line, n: re.sub(r"\.(?=\s|$)", "", line)), "plus signs": each_line(lambda line, n: re.sub(r"([XYZ])(?=[\d.])", r"\1+", line)),
    "notes gone": lambda rnd: "\n".join(line for line in LINES if not re.match(r"\((?!~)", line)), "notes behind lines": each_line(lambda line, n: line + " (as it is)"), "notes by semicolons": each_line(lambda line, n: line + " ; as it is"), "a note first": lambda rnd: SOURCE.replace("%\n", "%\n(Checked on Tuesday)\n", 1),
    "motion said each time": all_said, "feed said each time": feed_said, "settings said again": swap(r"^(T\d+ M6)", r"G21 G90 G17 G40 G54 G94\n\1", count=0), "coolant": swap("M3", "M3 M7", count=0), "stop for a look": swap(r"^(T\d+ M6)", r"M1\n\1", count=0), "M30": swap(r"^M2\n", "M30\n"), "without signs at the ends": lambda rnd: SOURCE.replace("%\n", ""),
    "a number of the program": lambda rnd: SOURCE.replace("%\n", "%\nO1234\n", 1), "blank lines": lambda rnd: SOURCE.replace("\n", "\n\n"), "in inches": inches, "in steps": in_steps, "arcs by their radius": radii, "words in another order": each_line(shuffled), "places said again": unsaid, "tabs for blanks": each_line(lambda line, n: line.replace(" ", "\t")),
    "tool and change apart": swap(r"^T(\d+) M6", r"T\1\nM6", count=0), "turns and start apart": swap(r"^S(\d+) M3", r"S\1\nM3", count=0), "settings on lines of their own": lambda rnd: re.sub(r"^G21 G17 G90 G40 G54 G94$", "G21\nG17\nG90\nG40\nG54\nG94", SOURCE, flags=re.M), "exact stop mode off": swap("G54", "G54 G64"), "no cycle": swap("G54", "G54 G80"), "no length of tool": swap("G54", "G54 G49"),
    "coolant off at the end": swap(r"^M5\n", "M5 M9\n"), "feed with turns said before": swap(r"^(T\d+ M6)", r"\1", count=0),
}.items():
    acts["same"][name] = run

for which, all_acts in acts.items():
    for name, run in all_acts.items():
        for number in range(EACH):
            text = run(random.Random(f"{SEED} {name} {number}"))
            if text == SOURCE:
                continue
            path = f"{which}-{name}-{number}.gcode"
            with open(path, "w", encoding="utf-8", newline="") as out:
                out.write(text)
            names.append(path)
print(json.dumps(names))
