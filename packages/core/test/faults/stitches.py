"""Spoils a list of stitches, and re-writes it without harm, as rows of a table that share nothing with ours.

Takes a.stitches in this folder, a seed and how often each; writes fault-*.stitches and same-*.stitches, and prints their names.
"""
import json
import math
import random
import re
import sys

SEED, EACH = int(sys.argv[1]), int(sys.argv[2])
SOURCE = open("a.stitches", encoding="utf-8").read()
HEAD = SOURCE[: SOURCE.index("op,x,y,thread") + len("op,x,y,thread\n")]
ROWS = [line.split(",") for line in SOURCE[len(HEAD):].split("\n") if line]
names = []
acts = {"fault": {}, "same": {}}


def text(rows, head=HEAD):
    return head + "".join(",".join(row) + "\n" for row in rows)


def of(op):
    return [i for i, row in enumerate(ROWS) if row[0] == op]


STITCHES, JUMPS, CUTS = of("stitch"), of("jump"), of("cut")
# In the middle of a seam: stitches before and behind it.
SEAM = [i for i in STITCHES if ROWS[i - 1][0] == "stitch" and ROWS[i + 1][0] == "stitch"]


def places(i):
    return int(ROWS[i][1]), int(ROWS[i][2])


def on(name, pool, change):
    """Changes one row of a pool: gives the rows that stand for it."""
    def run(rnd):
        i = rnd.choice(pool)
        return text(ROWS[:i] + change(i, rnd) + ROWS[i + 1:])
    acts["fault"][name] = run


def row(i, op=None, x=None, y=None, thread=None):
    was = ROWS[i]
    return [was[0] if op is None else op, was[1] if x is None else str(x), was[2] if y is None else str(y), was[3] if thread is None else str(thread)]


def by(i, dx, dy):
    x, y = places(i)
    return row(i, x=x + dx, y=y + dy)


for name, step in {"a tenth to the right": (1, 0), "a tenth to the left": (-1, 0), "a tenth up": (0, 1), "a tenth down": (0, -1), "a millimetre away": (10, 0), "askew": (3, -2), "far away": (60, 40)}.items():
    on("a stitch " + name, SEAM, lambda i, rnd, step=step: [by(i, *step)])
    on("a jump " + name, JUMPS, lambda i, rnd, step=step: [by(i, *step)])
on("a stitch gone", SEAM, lambda i, rnd: [])
on("the first stitch gone", [i + 1 for i in JUMPS], lambda i, rnd: [])
on("the last stitch gone", [i - 1 for i in CUTS], lambda i, rnd: [])
on("a stitch twice", SEAM, lambda i, rnd: [ROWS[i], ROWS[i]])
on("a stitch between", [i for i in SEAM if math.dist(places(i), places(i - 1)) > 8], lambda i, rnd: [row(i, x=(places(i)[0] + places(i - 1)[0]) // 2, y=(places(i)[1] + places(i - 1)[1]) // 2), ROWS[i]])
on("a stitch elsewhere between", SEAM, lambda i, rnd: [by(i, 17, 5), ROWS[i]])
on("a stitch and back", SEAM, lambda i, rnd: [ROWS[i], ROWS[i - 1], ROWS[i]])
on("a stitch jumped", SEAM, lambda i, rnd: [row(i, op="jump")])
on("a stitch cut", SEAM, lambda i, rnd: [["cut", "", "", ROWS[i][3]]])
on("a jump sewn", JUMPS, lambda i, rnd: [row(i, op="stitch")])
on("a jump gone", JUMPS[1:], lambda i, rnd: [])
on("a jump more", SEAM, lambda i, rnd: [by(i, 20, 20)[:0] + row(i, op="jump", x=5, y=5), ROWS[i]])
on("a cut gone", CUTS, lambda i, rnd: [])
on("a cut more", SEAM, lambda i, rnd: [ROWS[i], ["cut", "", "", ROWS[i][3]]])
on("a cut twice", CUTS, lambda i, rnd: [ROWS[i], ROWS[i]])
on("x for y", [i for i in SEAM if abs(places(i)[0] - places(i)[1]) > 2], lambda i, rnd: [row(i, x=places(i)[1], y=places(i)[0])])
on("a sign lost", [i for i in SEAM if places(i)[0] < -1], lambda i, rnd: [row(i, x=-places(i)[0])])
on("a digit lost", [i for i in SEAM if abs(places(i)[0]) > 10], lambda i, rnd: [row(i, x=int(places(i)[0] / 10))])
on("a stitch by another thread", SEAM, lambda i, rnd: [row(i, thread=int(ROWS[i][3]) % 2 + 1)])
on("a stitch by a thread that is not there", SEAM, lambda i, rnd: [row(i, thread=9)])
on("a stitch by no thread", SEAM, lambda i, rnd: [row(i, thread="")])
on("an op that nobody knows", SEAM, lambda i, rnd: [ROWS[i], ["whip", "1", "2", "1"]])
on("an op misspelled", SEAM, lambda i, rnd: [row(i, op="stich")])
on("an op in capitals", SEAM, lambda i, rnd: [row(i, op="STITCHES")])
on("a field more", SEAM, lambda i, rnd: [ROWS[i] + ["7"]])
on("a field less", SEAM, lambda i, rnd: [ROWS[i][:3]])
on("parts of a tenth", SEAM, lambda i, rnd: [row(i, x=f"{places(i)[0]}.5")])
on("words for a number", SEAM, lambda i, rnd: [row(i, y="here")])
on("an end in the middle", SEAM, lambda i, rnd: [ROWS[i], ["end", "", "", ""]])
on("a head in the middle", SEAM, lambda i, rnd: [ROWS[i], ["thread", "3", "#112233"]])


def pieces(change):
    """A seam is what lies between a jump and its cut."""
    def run(rnd):
        seams = [ROWS[a:b + 1] for a, b in zip(JUMPS, CUTS)]
        rest = ROWS[CUTS[-1] + 1:]
        return text([one for seam in change(seams, rnd) for one in seam] + rest)
    return run


def threads(seams, rnd):
    return [[[*one[:3], str(int(one[3]) % 2 + 1)] for one in seam] for seam in seams]


def backwards(seams, rnd):
    k = rnd.randrange(len(seams))
    jump, *sewn, cut = seams[k]
    turned = sewn[::-1]
    return seams[:k] + [[["jump", turned[0][1], turned[0][2], turned[0][3]], *turned, cut]] + seams[k + 1:]


def drop(which):
    def change(seams, rnd):
        k = which if which is not None else rnd.randrange(len(seams))
        return [seam for i, seam in enumerate(seams) if i != k % len(seams)]
    return change


def twice(seams, rnd):
    k = rnd.randrange(len(seams))
    return seams[:k] + [seams[k], seams[k]] + seams[k + 1:]


def exchanged(seams, rnd):
    k = rnd.randrange(len(seams) - 1)
    return seams[:k] + [seams[k + 1], seams[k]] + seams[k + 2:]


def thinned(seams, rnd):
    k = max(range(len(seams)), key=lambda i: len(seams[i]))
    jump, *sewn, cut = seams[k]
    return seams[:k] + [[jump, *sewn[::2], cut]] + seams[k + 1:]


def shifted(seams, rnd):
    k = rnd.randrange(len(seams))
    return seams[:k] + [[one if not one[1] else [one[0], str(int(one[1]) + 2), one[2], one[3]] for one in seams[k]]] + seams[k + 1:]


def not_tied(seams, rnd):
    k = rnd.randrange(len(seams))
    jump, *sewn, cut = seams[k]
    return seams[:k] + [[["jump", *sewn[4][1:]], *sewn[4:], cut]] + seams[k + 1:]


for name, change in {
    "threads exchanged": threads, "backwards": backwards, "one gone": drop(None), "the first gone": drop(0), "the last gone": drop(-1), "one twice": twice, "two exchanged": exchanged, "in the other order": lambda seams, rnd: seams[::-1],
    "half as dense": thinned, "one shifted": shifted, "one not tied in": not_tied, "all twice": lambda seams, rnd: seams + seams, "joined": lambda seams, rnd: [seams[0][:-1] + [["stitch", *seams[1][0][1:]]] + seams[1][1:], *seams[2:]],
}.items():
    acts["fault"]["seams: " + name] = pieces(change)


def everywhere(change):
    def run(rnd):
        return text([one if not one[1] else [one[0], *[str(round(v)) for v in change(int(one[1]), int(one[2]))], one[3]] for one in ROWS])
    return run


for name, change in {
    "a tenth to the right": lambda x, y: (x + 1, y), "mirrored": lambda x, y: (-x, y), "upside down": lambda x, y: (x, -y), "turned": lambda x, y: (-y, x), "a fiftieth larger": lambda x, y: (x * 1.02, y * 1.02), "wider": lambda x, y: (x * 1.05, y), "ten times as large": lambda x, y: (x * 10, y * 10), "slanting": lambda x, y: (x + y / 20, y),
    "on a coarser grid": lambda x, y: (x // 3 * 3, y // 3 * 3),
}.items():
    acts["fault"]["all " + name] = everywhere(change)

for name, run in {
    "another colour": lambda rnd: re.sub(r"^(thread,\d+,#)[0-9a-f]{2}", r"\g<1>7b", SOURCE, count=1, flags=re.M), "a colour that is nearly the same": lambda rnd: re.sub(r"^(thread,1,#[0-9a-f]{5})([0-9a-f])", lambda m: m.group(1) + ("1" if m.group(2) == "0" else "0"), SOURCE, flags=re.M),
    "colours exchanged": lambda rnd: re.sub(r"^thread,(\d),", lambda m: f"thread,{3 - int(m.group(1)) if m.group(1) in '12' else m.group(1)},", SOURCE, flags=re.M), "a thread not said": lambda rnd: re.sub(r"^thread,1,.*\n", "", SOURCE, flags=re.M),
    "no end": lambda rnd: SOURCE.replace("end,,,\n", ""), "more behind the end": lambda rnd: SOURCE + "stitch,1,1,1\n", "cut off in the middle": lambda rnd: text(ROWS[: rnd.choice(SEAM)]), "cut off within a row": lambda rnd: text(ROWS[: rnd.choice(SEAM)]) + "stitch,1",
    "another version": lambda rnd: SOURCE.replace("inkwell-stitches,1", "inkwell-stitches,2", 1), "empty": lambda rnd: text([ROWS[-1]]), "columns exchanged": lambda rnd: SOURCE.replace("op,x,y,thread", "op,y,x,thread", 1), "no line of columns": lambda rnd: SOURCE.replace("op,x,y,thread\n", "", 1),
}.items():
    acts["fault"][name] = run

# ---------------------------------------------------------------- without harm
BODY = SOURCE[SOURCE.index("op,x,y,thread"):]


def each_row(change):
    return lambda rnd: HEAD + "".join(change(line, n) + "\n" for n, line in enumerate(SOURCE[len(HEAD):].split("\n")) if line)


def heads(change):
    def run(rnd):
        lines = HEAD.split("\n")
        ts = [line for line in lines if line.startswith("thread,")]
        rest = [line for line in lines[1:] if line and not line.startswith(("thread,", "op,"))]
        return "\n".join([lines[0], *change(rest, ts), "op,x,y,thread"]) + "\n" + SOURCE[len(HEAD):]
    return run


for name, run in {
    "line ends of other machines": lambda rnd: SOURCE.replace("\n", "\r\n"), "line ends of old machines": lambda rnd: SOURCE.replace("\n", "\r"), "no line end at the end": lambda rnd: SOURCE.rstrip("\n"), "blank lines": lambda rnd: SOURCE.replace("\n", "\n\n"), "a blank line at the end": lambda rnd: SOURCE + "\n",
    "a mark of its bytes first": lambda rnd: "\ufeff" + SOURCE, "blanks behind commas": each_row(lambda line, n: line.replace(",", ", ")), "blanks before commas": each_row(lambda line, n: line.replace(",", " ,")), "blanks at both ends": each_row(lambda line, n: f"  {line}  "), "tabs": each_row(lambda line, n: line.replace(",", ",\t")),
    "a note in the head": lambda rnd: SOURCE.replace("op,x", "# for the second hoop\nop,x", 1), "a note among the stitches": each_row(lambda line, n: line if n != 40 else f"# here\n{line}"), "a note behind the end": lambda rnd: SOURCE + "# sewn on Tuesday\n", "many notes": each_row(lambda line, n: line if n % 10 else f"#\n{line}"), "a note with commas": lambda rnd: SOURCE.replace("op,x", "# a,b,,c\nop,x", 1),
    "threads in another order": heads(lambda rest, ts: [*rest, *ts[::-1]]), "threads before the mark": heads(lambda rest, ts: [*ts, *rest]), "the mark between threads": heads(lambda rest, ts: [*ts[:1], *rest, *ts[1:]]), "colours in capitals": lambda rnd: re.sub(r"^thread,\d+,#.*$", lambda m: m.group(0)[:9] + m.group(0)[9:].upper(), SOURCE, flags=re.M), "a thread that nothing is sewn with": lambda rnd: SOURCE.replace("op,x", "thread,6,#ffffff\nop,x", 1),
    "plus signs": each_row(lambda line, n: re.sub(r",(?=\d)", ",+", line, count=1)), "zeros before": each_row(lambda line, n: re.sub(r"^(stitch|jump),(-?)(\d)", r"\1,\g<2>0\3", line)), "a field too many that is empty": each_row(lambda line, n: line + ","), "blanks in the head": lambda rnd: SOURCE.replace("op,x,y,thread", "op, x, y, thread", 1), "a blank line first of all behind the head": lambda rnd: SOURCE.replace("op,x,y,thread\n", "op,x,y,thread\n\n", 1),
    "no thread said where it is cut": each_row(lambda line, n: line), "mixed line ends": each_row(lambda line, n: line + ("\r" if n % 3 == 0 else "")), "minus nothing": each_row(lambda line, n: re.sub(r",0,", ",-0,", line)), "spaces behind the last": lambda rnd: SOURCE + "   \n", "notes of its own spacing": lambda rnd: SOURCE.replace("# inkwell-twin", "#inkwell-twin", 1),
}.items():
    acts["same"][name] = run

for which, all_acts in acts.items():
    for name, run in all_acts.items():
        for number in range(EACH):
            done = run(random.Random(f"{SEED} {name} {number}"))
            if done == SOURCE:
                continue
            path = f"{which}-{name}-{number}.stitches"
            with open(path, "w", encoding="utf-8", newline="") as out:
                out.write(done)
            names.append(path)
print(json.dumps(names))
