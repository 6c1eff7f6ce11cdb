"""Changes of a table in lines of cells (RFC 4180), letter by letter: what shows, and what does not."""
import re

from columns import ABOVE, AFTER, BEFORE, COATING, CRACKED, DAY, LOSS, MEASURED, NOTE, PANEL, swap
from outsider import Cannot


def split(text):
    """Cells of lines, by the grammar of RFC 4180 alone; each as it is written, quotation marks included."""
    rows, row, at = [], [], 0
    cell = re.compile(r'("(?:[^"]|"")*"|[^,\r\n"]*)(,|\r\n|\n|\Z)')
    while at < len(text):
        found = cell.match(text, at)
        row.append(found.group(1))
        at = found.end()
        if found.group(2) != ",":
            rows.append(row)
            row = []
    return rows


class Lines:
    def __init__(self, rnd):
        self.rnd = rnd
        self.rows = split(open("a.csv", newline="", encoding="utf-8").read())
        self.delimiter, self.end, self.encoding = ",", "\r\n", "utf-8"
        self.before = self.after = ""
        self.whole = None

    def pick(self, things):
        things = list(things)
        if not things:
            raise Cannot
        return self.rnd.choice(things)

    def places(self, column, wanted=lambda cell: cell != ""):
        return [row for row in self.rows[1:] if wanted(row[column])]

    def text(self):
        return self.before + "".join(self.delimiter.join(row) + self.end for row in self.rows) + self.after

    def bytes(self):
        return self.whole if self.whole is not None else self.text().encode(self.encoding)


def cell(column, change, wanted=lambda text: text != ""):
    def act(lines):
        at = lines.pick(column) if isinstance(column, tuple) else column
        row = lines.pick(lines.places(at, wanted))
        new = change(row[at])
        assert new != row[at]
        row[at] = new
    return act


def each(column, change):
    def act(lines):
        for row in lines.places(column):
            row[column] = change(row[column])
    return act


def rows(change):
    return lambda lines: change(lines.rows, lines.rnd)


def heading(at, change):
    def act(lines):
        lines.rows[0][at] = change(lines.rows[0][at])
    return act


def text(change):
    def act(lines):
        lines.whole = change(lines.text()).encode("utf-8")
    return act


def raw(change):
    def act(lines):
        lines.whole = change(lines.text().encode("utf-8"), lines.rnd)
    return act




def last_shown(word):
    """One more in the last place that is shown: a tenth."""
    return repr(round(float(word) + 0.1, 12))


def flipped(data, rnd):
    """One bit of one letter of a word."""
    at = rnd.choice([i for i in range(len(data) // 3, len(data)) if chr(data[i]).isalpha() and data[i - 1:i].isalpha() and data[i + 1:i + 2].isalpha()])
    return data[:at] + bytes([data[at] ^ 2]) + data[at + 1:]


CSV_FAULTS = {
    "a tenth more": cell(MEASURED, last_shown),
    "a thousandth less": cell(MEASURED, lambda t: repr(float(t) * 0.999)),
    "a sign behind": cell(MEASURED, lambda t: t + "-"),
    "in brackets": cell(MEASURED, lambda t: f"({t})"),
    "a mark of thousands for a point": cell(MEASURED, lambda t: t.replace(".", "'"), lambda t: "." in t),
    "a comma for a point": cell(MEASURED, lambda t: '"' + t.replace(".", ",") + '"', lambda t: "." in t),
    "a dot in the middle": cell(MEASURED, lambda t: t.replace(".", "·"), lambda t: "." in t),
    "a unit behind": cell(MEASURED, lambda t: t + " mm"),
    "per cent": cell(MEASURED, lambda t: t + "%"),
    "about": cell(MEASURED, lambda t: "~" + t),
    "less than": cell(MEASURED, lambda t: "<" + t),
    "a power": cell(MEASURED, lambda t: t + "e1"),
    "a negative power": cell(MEASURED, lambda t: t + "E-1"),
    "of base sixteen": cell(MEASURED, lambda t: "0x" + t.split(".")[0]),
    "wide digits": cell(MEASURED, lambda t: "".join(chr(ord(c) + 0xFEE0) if c.isdigit() else c for c in t)),
    "letter O for nought": cell(MEASURED, lambda t: t.replace("0", "O"), lambda t: "0" in t),
    "letter l for one": cell(MEASURED, lambda t: t.replace("1", "l"), lambda t: "1" in t),
    "not a number": cell(MEASURED, lambda t: "NaN"),
    "without end": cell(MEASURED, lambda t: "inf"),
    "an error": cell(MEASURED, lambda t: "#DIV/0!"),
    "nought for nothing": cell(AFTER, lambda t: "0", lambda t: t == ""),
    "a line for nothing": cell(AFTER, lambda t: "-", lambda t: t == ""),
    "null for nothing": cell(AFTER, lambda t: "NULL", lambda t: t == ""),
    "empty words for nothing": cell(NOTE, lambda t: "none", lambda t: t == ""),
    "a computed value": cell(LOSS, last_shown),
    "a computed value as words": cell(LOSS, lambda t: "n/a"),
    "a computed yes": cell(ABOVE, lambda t: {"yes": "no", "no": "yes"}[t]),
    "day and month": cell(DAY, lambda t: f"{t[8:]}/{t[5:7]}/{t[:4]}x"),
    "a month before": cell(DAY, lambda t: t[:5] + ("12" if t[5:7] == "01" else f"{int(t[5:7]) - 1:02}") + t[7:]),
    "a day that is none": cell(DAY, lambda t: t[:5] + "02-30"),
    "two digits of a year": cell(DAY, lambda t: t[2:]),
    "a month in words": cell(DAY, lambda t: "1 March " + t[:4]),
    "days since": cell(DAY, lambda t: "46083"),
    "late in the day": cell(DAY, lambda t: t + " 23:30:00"),
    "another zone": cell(DAY, lambda t: t + "T23:00:00-05:00"),
    "perhaps": cell(CRACKED, lambda t: "maybe"),
    "yes to words": cell(CRACKED, lambda t: "yes?"),
    "nothing for no": cell(CRACKED, lambda t: "", lambda t: t == "no"),
    "a longer key": cell(PANEL, lambda t: t + "a"),
    "a key without its line": cell(PANEL, lambda t: t.replace("-", "")),
    "a key with another line": cell(PANEL, lambda t: t.replace("-", "\u2010")),
    "a letter of another script": cell(PANEL, lambda t: t.replace("P", "\u0420")),
    "a key in small letters": cell(PANEL, str.lower),
    "a sign of no width": cell(PANEL, lambda t: t[:3] + "\u200b" + t[3:]),
    "turned round": cell(PANEL, lambda t: "\u202e" + t),
    "two blanks": cell(COATING, lambda t: t.replace(" ", "  "), lambda t: " " in t),
    "no blank": cell(COATING, lambda t: t.replace(" ", ""), lambda t: " " in t),
    "a word broken": cell(COATING, lambda t: t[:2] + "\u00ad" + t[2:]),
    "an accent": cell(COATING, lambda t: t.replace("e", "é", 1), lambda t: "e" in t),
    "a word more": cell(COATING, lambda t: t + " old"),
    "a line end in a word": cell(COATING, lambda t: '"' + t[:3] + "\n" + t[3:] + '"'),
    "straight marks": cell(NOTE, lambda t: t.replace("“", '""').replace("”", '""'), lambda t: "“" in t),
    "a note on one line": cell(NOTE, lambda t: t.replace("\n", " "), lambda t: "\n" in t),
    "a note without its comma": cell(NOTE, lambda t: t.replace(",", ""), lambda t: "," in t),
    "marks within lost": cell(NOTE, lambda t: t.replace('""', ""), lambda t: '""' in t),
    "another guard": cell(NOTE, lambda t: t.replace("'=", "''="), lambda t: "'=" in t),
    "a formula": cell(NOTE, lambda t: "=1+1", lambda t: t == ""),
    "a heading without its unit": heading(BEFORE, lambda t: t.replace(" (GU)", "")),
    "a heading in capitals": heading(COATING, str.upper),
    "two headings alike": heading(COATING, lambda t: "Panel"),
    "a heading of nothing": heading(NOTE, lambda t: ""),
    "no heading": rows(lambda all_of, rnd: all_of.pop(0)),
    "headings again": rows(lambda all_of, rnd: all_of.insert(rnd.randint(2, len(all_of) - 1), list(all_of[0]))),
    "neighbours exchanged": rows(lambda all_of, rnd: (lambda k: swap(all_of, k, k + 1))(rnd.randint(1, len(all_of) - 2))),
    "upside down": rows(lambda all_of, rnd: all_of.__setitem__(slice(1, None), all_of[:0:-1])),
    "cells moved to the left": rows(lambda all_of, rnd: (lambda row: row.append(row.pop(1)))(all_of[rnd.randint(1, len(all_of) - 1)])),
    "one cell more": rows(lambda all_of, rnd: all_of[rnd.randint(1, len(all_of) - 1)].append("more")),
    "a sum below": rows(lambda all_of, rnd: all_of.append(["Total"] + [""] * 8)),
    "words above": rows(lambda all_of, rnd: all_of.insert(0, ["Coating series, second try"])),
    "a remark below": rows(lambda all_of, rnd: all_of.append(["# not checked"])),
    "values of one column one row down": rows(lambda all_of, rnd: [row.__setitem__(BEFORE, value) for row, value in zip(all_of[1:], [all_of[-1][BEFORE]] + [row[BEFORE] for row in all_of[1:-1]])]),
    "read as other letters": text(lambda t: t.encode("utf-8").decode("latin-1")),
    "letters lost": text(lambda t: t.replace("“", "?").replace("”", "?")),
    "a mark that stays open": text(lambda t: t.replace("Fen wax", '"Fen wax', 1)),
    "points lost": text(lambda t: re.sub(r"(?<=\d)\.(?=\d)", "", t)),
    "a bit": raw(flipped),
    "nothing of a kind in it": raw(lambda data, rnd: data[: len(data) // 2] + b"\0" + data[len(data) // 2:]),
    "half of it twice": raw(lambda data, rnd: data[: data.rindex(b"\n", 0, len(data) // 2) + 1] + data[data.index(b"\n") + 1:]),
    "empty": raw(lambda data, rnd: b""),
}


def dressed(**how):
    def act(lines):
        for name, value in how.items():
            setattr(lines, name, value)
    return act


def quoted(wanted):
    def act(lines):
        for row in lines.rows:
            for i, word in enumerate(row):
                if not word.startswith('"') and wanted(i, word):
                    row[i] = f'"{word}"'
    return act


CSV_SAME = {
    "untouched": lambda lines: None,
    "feeds": dressed(end="\n"),
    "returns": dressed(end="\r"),
    "empty lines below": dressed(after="\r\n\r\n"),
    "an empty line above the end": dressed(after="\r\n"),
    "big end first": lambda lines: setattr(lines, "whole", b"\xfe\xff" + lines.text().encode("utf-16-be")),
    "little end first": lambda lines: setattr(lines, "whole", b"\xff\xfe" + lines.text().encode("utf-16-le")),
    "a mark": dressed(before="\ufeff"),
    "letters of Windows": dressed(encoding="cp1252"),
    "numbers in marks": quoted(lambda i, word: i in MEASURED and word),
    "keys in marks": quoted(lambda i, word: i == PANEL),
    "headings in marks": lambda lines: lines.rows.__setitem__(0, [f'"{word}"' for word in lines.rows[0]]),
    "nothing in marks": quoted(lambda i, word: word == ""),
    "more noughts": each(BEFORE, lambda t: t + ("000" if "." in t else ".000")),
    "seventeen digits": each(AFTER, lambda t: "%.17g" % float(t)),
    "powers": each(AFTER, lambda t: "%.17e" % float(t)),
    "small powers": each(BEFORE, lambda t: ("%.16E" % float(t)).replace("E+0", "e")),
    "plus": each(BEFORE, lambda t: "+" + t),
    "blanks around numbers": each(BEFORE, lambda t: f" {t} "),
    "capitals of yes": each(CRACKED, str.capitalize),
    "true": each(CRACKED, lambda t: {"yes": "true", "no": "false"}[t]),
    "a time of nought": each(DAY, lambda t: t + "T00:00:00"),
    "a time of nought at Greenwich": each(DAY, lambda t: t + "T00:00:00Z"),
    "semicolons": lambda lines: (quoted(lambda i, word: ";" in word)(lines), setattr(lines, "delimiter", ";")),
    "tabs": dressed(delimiter="\t"),
    "decimal commas": lambda lines: (each(BEFORE, lambda t: t.replace(".", ","))(lines), each(AFTER, lambda t: t.replace(".", ","))(lines), each(LOSS, lambda t: t.replace(".", ","))(lines), setattr(lines, "delimiter", ";")),
}
