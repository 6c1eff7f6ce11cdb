"""Spoils an HP-GL copy, and re-writes it without harm, as a list of instructions that shares nothing with ours.

Takes a.hpgl in this folder, a seed and how often each; writes fault-*.hpgl and same-*.hpgl, and prints their names.
"""
import json
import math
import random
import re
import sys

SEED, EACH = int(sys.argv[1]), int(sys.argv[2])
SOURCE = open("a.hpgl", encoding="utf-8").read()
ESC = "\x1b"
names = []
acts = {"fault": {}, "same": {}}


def act(which, name):
    def keep(do):
        acts[which][name] = do
        return do
    return keep


def lines():
    return SOURCE.split("\n")


def downs(all_lines):
    return [i for i, line in enumerate(all_lines) if line.startswith("PD")]


def numbers(line):
    return [int(n) for n in re.findall(r"-?\d+", line)]


def pd(values):
    return "PD" + ",".join(str(int(round(v))) for v in values) + ";"


def on_line(which, name, change):
    @act(which, name)
    def run(rnd):
        all_lines = lines()
        i = rnd.choice(downs(all_lines))
        done = change(all_lines, i, rnd)
        return "\n".join(all_lines if done is None else done)


def put_before(words):
    def change(all_lines, i, rnd):
        all_lines.insert(i - 1, words)
    return change


def put_at_start(words):
    return lambda all_lines, i, rnd: all_lines.insert(1, words)


for name, words in {
    "symbols at each place": "SM*;", "turned by the machine": "RO90;", "scaled": "IP0,0,1000,1000;SC0,900,0,900;", "scaled without corners": "SC0,100,0,100;", "dashed": "LT2,4;",
    "window": "IW0,0,1000,1000;", "relative from here": "PR;", "another pen": "SP7;", "no pen": "SP0;", "next sheet": "PG;", "paper moved on": "AF;", "frame": "FR;",
    "words": "LBMore\x03;", "filled box": "RA500,500;", "edged box": "EA500,500;", "wedge": "EW100,0,90;", "circle": "CI80;", "dot": "PU;PD;PU;", "line there": "PD4000,100;PU;",
    "arc": "PD;AR0,100,90;PU;", "encoded": "PE<=fg;", "an instruction that nobody knows": "ZZ1;", "turned page": ESC + "&l1O", "bent": "BZ0,0,10,10,20,20;",
    "arc about a place": "PD;AA0,0,45;PU;", "arc through three": "PD;RT50,90,100,0;PU;", "arc through three places": "PD;AT50,90,300,400;PU;", "filled wedge": "WG120,0,60;", "filled box from here": "RR300,200;",
    "edged box from here": "ER300,200;", "an outline, edged": "PM0;PD90,90,200,90;PM2;EP;", "an outline, filled": "PM0;PD90,90,200,90;PM2;FP;", "a tick across": "XT;", "a tick up": "YT;", "words held back": "BLLater\x03;PB;",
    "symbols of a set": "SB1;LBx\x03;", "mirrored by its scale": "IP0,0,1000,1000;SC1000,0,0,1000;", "half as large by its scale": "IP0,0,1000,1000;SC0,2000,0,2000;", "upside down by the machine": "RO180;",
    "window of a share": "IP0,0,1000,1000;IW10,10,20,20;", "corners by shares": "IR0,0,50,50;SC0,1000,0,1000;", "bent from here": "BR0,0,10,10,20,20;", "dashes of one's own": "UL3,50,50;LT3,10;",
}.items():
    on_line("fault", name, put_before(words))


def shift(values, by, which=None):
    return [v + (by if which is None or i in which else 0) for i, v in enumerate(values)]


def moved(all_lines, i, rnd):
    by = rnd.choice([4, 8, 40, 400])
    all_lines[i - 1] = "PU" + ",".join(str(v + by) for v in numbers(all_lines[i - 1])) + ";"
    all_lines[i] = pd(shift(numbers(all_lines[i]), by))


def corner(all_lines, i, rnd):
    # Of few: on a curve it may only move along it.
    i = rnd.choice([k for k in downs(all_lines) if len(numbers(all_lines[k])) <= 10])
    values = numbers(all_lines[i])
    k = rnd.randrange(len(values))
    values[k] += rnd.choice([-1, 1]) * rnd.choice([4, 9, 60])
    all_lines[i] = pd(values)


def drop_point(all_lines, i, rnd):
    long = [k for k in downs(all_lines) if 6 <= len(numbers(all_lines[k])) <= 10]
    k = rnd.choice(long)
    values = numbers(all_lines[k])
    all_lines[k] = pd(values[2:])


def gone(all_lines, i, rnd):
    del all_lines[i - 1:i + 1]


def twice(all_lines, i, rnd):
    all_lines[i + 1:i + 1] = all_lines[i - 1:i + 1]


def first_piece_again(all_lines, i, rnd):
    values = numbers(all_lines[i])
    all_lines.insert(i + 1, all_lines[i - 1] + "\n" + pd(values[:2]))


def backwards(all_lines, i, rnd):
    opened = [k for k in downs(all_lines) if numbers(all_lines[k])[-2:] != numbers(all_lines[k - 1])]
    k = rnd.choice(opened)
    spots = numbers(all_lines[k - 1]) + numbers(all_lines[k])
    pairs = list(zip(spots[::2], spots[1::2]))[::-1]
    all_lines[k - 1] = "PU%d,%d;" % pairs[0]
    all_lines[k] = pd([v for p in pairs[1:] for v in p])


def half_later(all_lines, i, rnd):
    k = rnd.choice([k for k in downs(all_lines)[:-2] if len(numbers(all_lines[k])) >= 6])
    values = numbers(all_lines[k])
    at = len(values) // 4 * 2
    all_lines[k] = pd(values[:at])
    end = max(j for j in downs(all_lines))
    all_lines.insert(end + 1, "PU%d,%d;\n" % tuple(values[at - 2:at]) + pd(values[at:]))


def re_ordered(all_lines, i, rnd):
    ds = downs(all_lines)
    k = rnd.randrange(len(ds) - 1)
    a, b = ds[k], ds[k + 1]
    if b != a + 2:
        a, b = ds[0], ds[1]
    all_lines[a - 1:a + 1], all_lines[b - 1:b + 1] = all_lines[b - 1:b + 1], all_lines[a - 1:a + 1]


def overrun(all_lines, i, rnd):
    closed = [k for k in downs(all_lines) if numbers(all_lines[k])[-2:] == numbers(all_lines[k - 1]) and len(numbers(all_lines[k])) <= 12]
    k = rnd.choice(closed)
    values = numbers(all_lines[k])
    x, y = values[-2:]
    u, v = values[:2]
    far = math.hypot(u - x, v - y)
    all_lines[k] = pd(values + [x + (u - x) * 24 / far, y + (v - y) * 24 / far])


def not_lifted(all_lines, i, rnd):
    all_lines[i - 1] = all_lines[i - 1].replace("PU", "PD")


def never_down(all_lines, i, rnd):
    all_lines[i] = all_lines[i].replace("PD", "PU")


def lone_cut(all_lines, i, rnd):
    # Two steps of a plotter long, where nothing else is.
    all_lines.insert(i - 1, "PU%d,12000;\nPD%d,12000;" % (4000 + i, 4002 + i))


for name, change in {
    "a lone cut": lone_cut, "moved": moved, "a corner": corner, "a corner gone": drop_point, "gone": gone, "twice": twice, "a piece again": first_piece_again, "backwards": backwards, "half of it later": half_later,
    "re-ordered": re_ordered, "run over its end": overrun, "not lifted": not_lifted, "never down": never_down,
}.items():
    on_line("fault", name, change)


@act("fault", "reset in the middle")
def reset(rnd):
    all_lines = lines()
    i = rnd.choice(downs(all_lines)[1:])
    values = numbers(all_lines[i])
    # The pen is at the origin then, and a line runs from there.
    all_lines[i] = "IN;SP1;" + pd(values)
    return "\n".join(all_lines)


@act("fault", "all smaller")
def smaller(rnd):
    return re.sub(r"(?<=[DU,])(-?\d+)(?=[,;])", lambda m: str(round(int(m.group(1)) / 25.4)), SOURCE)


def everywhere(change):
    """All places, each as a pair."""
    def run(rnd):
        out = []
        for line in lines():
            values = numbers(line) if re.match(r"P[UD]-?\d", line) else None
            out.append(line if not values else line[:2] + ",".join(f"{x},{y}" for x, y in (change(x, y) for x, y in zip(values[::2], values[1::2]))) + ";")
        return "\n".join(out)
    return run


def paths(change):
    """All strokes, each as the moves to it and along it."""
    def run(rnd):
        all_lines = lines()
        ds = downs(all_lines)
        strokes = [all_lines[i - 1:i + 1] for i in ds]
        return "\n".join(all_lines[: ds[0] - 1] + [line for stroke in change(strokes, rnd) for line in stroke] + all_lines[ds[-1] + 1:])
    return run


def is_closed(stroke):
    return numbers(stroke[0]) == numbers(stroke[1])[-2:]


def not_closed(strokes, rnd):
    one = rnd.choice([s for s in strokes if is_closed(s) and len(numbers(s[1])) <= 12])
    one[1] = pd(numbers(one[1])[:-2])
    return strokes


def closed(strokes, rnd):
    opened = [s for s in strokes if not is_closed(s) and len(numbers(s[1])) >= 4]
    one = rnd.choice(opened or strokes[:1])
    one[1] = pd(numbers(one[1]) + (numbers(one[0]) if opened else [9000, 9000]))
    return strokes


def coarser(strokes, rnd):
    one = max(strokes, key=lambda s: len(s[1]))
    values = numbers(one[1])
    pairs = list(zip(values[::2], values[1::2]))
    one[1] = pd([v for pair in pairs[:-1:6] + pairs[-1:] for v in pair])
    return strokes


for name, change in {
    "a step to the right": lambda x, y: (x + 1 + 3, y), "higher": lambda x, y: (x, y + 40), "mirrored": lambda x, y: (8000 - x, y), "upside down": lambda x, y: (x, 8000 - y), "sides exchanged": lambda x, y: (y, x),
    "twice as large": lambda x, y: (2 * x, 2 * y), "a hundredth larger": lambda x, y: (round(1.01 * x), round(1.01 * y)), "wider alone": lambda x, y: (round(1.02 * x), y), "slanting": lambda x, y: (x + y // 50, y),
}.items():
    acts["fault"]["all " + name] = everywhere(change)
for name, change in {
    "in the other order": lambda strokes, rnd: strokes[::-1], "the first gone": lambda strokes, rnd: strokes[1:], "the last gone": lambda strokes, rnd: strokes[:-1], "all twice": lambda strokes, rnd: strokes + strokes,
    "one not closed": not_closed, "one closed": closed, "one coarser": coarser,
}.items():
    acts["fault"]["strokes: " + name] = paths(change)


@act("fault", "cut short")
def short(rnd):
    body = SOURCE.rstrip()
    return body[: rnd.randrange(len(body) // 2, len(body) - 20)].rstrip(";\n") + "1"


# ---------------------------------------------------------------- without harm
for name, words in {
    "force": "FS12;", "speed where none is asked for": "VS2;", "acceleration": "AS3;", "corners of the paper": "IP0,0,9000,9000;", "no window": "IW;", "no scale": "SC;", "scaled one to one": "IP0,0,1000,1000;SC0,1000,0,1000;", "scaled by units": "IP0,0,1,1;SC0,1,0,1,2;", "no turn": "RO0;", "solid line": "LT;", "no symbols": "SM;",
    "letters set up": "SI0.2,0.3;DI1,0;SL0;CS0;DT\x03,1;", "fills set up": "FT3,100,45;PT0.3;", "dashes set up": "UL1,20,80;", "a question": "OA;", "absolute": "PA;", "comment": 'CO "by somebody";',
    "machine spoken to": ESC + ".I81;;17:" + ESC + ".N;19:", "machine switched on": ESC + ".(", "language entered": ESC + "%0B", "pen width": "PW0.3;WU0;", "defaults": "DF;",
}.items():
    on_line("same", name, put_at_start(words))


@act("same", "printer’s prologue")
def prologue(rnd):
    return ESC + "%-12345X@PJL SET RESOLUTION=300\n@PJL ENTER LANGUAGE=HPGL2\n" + ESC + "%0B" + SOURCE + ESC + "%0A" + ESC + "%-12345X"


@act("same", "a sheet fed at the end")
def fed(rnd):
    return SOURCE.rstrip("\n") + "\nPU;SP;PG;\n"


@act("same", "moves one by one")
def single(rnd):
    def split(m):
        values = re.findall(r"-?\d+", m.group(0))
        return "PD;" + "".join(f"PA{x},{y};" for x, y in zip(values[::2], values[1::2]))
    return re.sub(r"PD[\d,-]+;", split, SOURCE)


@act("same", "relative moves")
def relative(rnd):
    out, at = [], (0, 0)
    for line in lines():
        values = numbers(line) if re.match(r"P[UD][\d-]", line) else None
        if not values:
            out.append(line)
            continue
        parts = []
        for x, y in zip(values[::2], values[1::2]):
            parts.append(f"{x - at[0]},{y - at[1]}")
            at = (x, y)
        out.append(f"{line[:2]};PR{','.join(parts)};PA;")
    return "\n".join(out)


@act("same", "blanks for commas")
def blanks(rnd):
    return re.sub(r"(?<=\d),(?=\d)", " ", SOURCE)


@act("same", "without line ends")
def one_line(rnd):
    return SOURCE.replace("\n", "")


@act("same", "small letters")
def small(rnd):
    return re.sub(r"\b(P[UD]|SP|IN)", lambda m: m.group(0).lower(), SOURCE)


@act("same", "points between")
def between(rnd):
    all_lines = lines()
    i = rnd.choice(downs(all_lines))
    values = numbers(all_lines[i - 1]) + numbers(all_lines[i])
    x, y, u, v = values[:4]
    more = [(x + u) / 2, (y + v) / 2]
    all_lines[i] = pd(more + values[2:]) if all(m == int(m) for m in more) else all_lines[i]
    return "\n".join(all_lines)


@act("same", "pen lifted where it goes on")
def lifted(rnd):
    all_lines = lines()
    i = rnd.choice([k for k in downs(all_lines) if len(numbers(all_lines[k])) >= 6])
    values = numbers(all_lines[i])
    all_lines[i] = pd(values[:2]) + "\nPU;\n" + pd(values[2:])
    return "\n".join(all_lines)


@act("same", "in two parts")
def in_two_parts(rnd):
    all_lines = lines()
    i = rnd.choice([k for k in downs(all_lines) if len(numbers(all_lines[k])) >= 6])
    values = numbers(all_lines[i])
    at = rnd.randrange(1, len(values) // 2) * 2
    all_lines[i] = pd(values[:at]) + "\nPU%d,%d;\n" % tuple(values[at - 2:at]) + pd(values[at:])
    return "\n".join(all_lines)


for which, all_acts in acts.items():
    for name, run in all_acts.items():
        for number in range(EACH):
            path = f"{which}-{name}-{number}.hpgl"
            with open(path, "w", encoding="utf-8", newline="") as out:
                out.write(run(random.Random(f"{SEED} {name} {number}")))
            names.append(path)
print(json.dumps(names))
