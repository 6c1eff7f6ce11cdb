"""Changes of a table in JSON (RFC 8259): what shows, and what does not."""
import copy
import json
import re
import unicodedata

from columns import ABOVE, AFTER, BEFORE, COATING, CRACKED, DAY, LOSS, MEASURED, NOTE, PANEL, swap
from outsider import Cannot


class Data:
    def __init__(self, rnd):
        self.rnd = rnd
        self.text = open("a.json", encoding="utf-8").read()
        self.data = json.loads(self.text)
        self.how = {"ensure_ascii": False}
        self.whole = None

    @property
    def table(self):
        return self.data["tables"][0]

    @property
    def rows(self):
        return self.table["rows"]

    def row(self, column):
        return self.rnd.choice([row for row in self.rows if row[column] is not None])

    def dump(self):
        return json.dumps(self.data, **self.how)

    def bytes(self):
        return self.whole if self.whole is not None else self.dump().encode("utf-8")


def value(column, change):
    def act(data):
        at = data.rnd.choice(column) if isinstance(column, tuple) else column
        row = data.row(at)
        row[at] = change(row[at])
    return act


def nothing(column, new):
    def act(data):
        found = [row for row in data.rows if row[column] is None]
        if not found:
            raise Cannot
        data.rnd.choice(found)[column] = new
    return act


def of_column(at, **said):
    def act(data):
        for name, new in said.items():
            if new is None:
                data.table["columns"][at].pop(name)
            else:
                data.table["columns"][at][name] = new
    return act


def of_summary(**said):
    def act(data):
        one = data.rnd.choice([s for s in data.table["summaries"] if all(name in s for name in said)])
        for name, new in said.items():
            if new is None:
                one.pop(name)
            else:
                one[name] = new
    return act


def written(change):
    def act(data):
        old = data.dump()
        new = change(old)
        assert new != old
        data.whole = new.encode("utf-8")
    return act


def table(change):
    return lambda data: change(data.table)


def columns_exchanged(data):
    columns = data.table["columns"]
    swap(columns, 3, 4)
    for row in data.rows:
        swap(row, 3, 4)


def twice(data):
    """The rows stand twice under one name; a reader may take either (RFC 8259, 4)."""
    false = copy.deepcopy(data.rows)
    false[0][BEFORE] = 12.5
    data.whole = data.dump().replace('"rows": ', f'"rows": {json.dumps(false)}, "rows": ', 1).encode("utf-8")


def twice_in_a_column(data):
    data.whole = data.dump().replace('"unit": "GU"', '"unit": "mm", "unit": "GU"', 1).encode("utf-8")


def by_name(change=lambda rows: None):
    def act(data):
        names = [one["name"] for one in data.table["columns"]]
        data.table["rows"] = [dict(zip(names, row)) for row in data.rows]
        change(data.table["rows"])
    return act


JSON_FAULTS = {
    "a tenth more": value(MEASURED, lambda v: v + 0.1),
    "a thousandth less": value(MEASURED, lambda v: v * 0.999),
    "as words": value(MEASURED, repr),
    "with a comma": value(MEASURED, lambda v: str(v).replace(".", ",") + "5"),
    "in a list": value(MEASURED, lambda v: [v]),
    "in an object": value(MEASURED, lambda v: {"value": v}),
    "true for a number": value(MEASURED, lambda v: True),
    "no words for a number": value(MEASURED, lambda v: ""),
    "nought for nothing": nothing(AFTER, 0),
    "no words for nothing": nothing(AFTER, "-"),
    "no for nothing": nothing(AFTER, False),
    "words for nothing": nothing(NOTE, "none"),
    "a computed value": value(LOSS, lambda v: v + 0.01),
    "a computed value as words": value(LOSS, str),
    "a computed yes": value(ABOVE, lambda v: not v),
    "one for yes": value(CRACKED, lambda v: 2),
    "words for yes": value(CRACKED, lambda v: "yes, a little" if v else "not yet"),
    "another day": value(DAY, lambda v: v[:8] + ("11" if v[8:] != "11" else "12")),
    "no day": value(DAY, lambda v: v[:5] + "02-30"),
    "a day in words": value(DAY, lambda v: "1 March 2026"),
    "late in the day": value(DAY, lambda v: v + "T23:30:00"),
    "milliseconds since": value(DAY, lambda v: 1767225600000),
    "a key in small letters": value(PANEL, str.lower),
    "a letter of another script": value(PANEL, lambda v: v.replace("P", "\u0420")),
    "a sign of no width": value(PANEL, lambda v: v + "\u200b"),
    "a number for a key": value(PANEL, lambda v: int(v[2:])),
    "two blanks": value(COATING, lambda v: v + "  x"),
    "a note on one line": lambda data: next(row for row in data.rows if row[NOTE] and "\n" in row[NOTE]).__setitem__(NOTE, '-dull, "matt" at the edge'),
    "guarded": lambda data: next(row for row in data.rows if row[NOTE] and row[NOTE].startswith("=")).__setitem__(NOTE, "'=see “log”, p. 3"),
    "straight marks": lambda data: next(row for row in data.rows if row[NOTE] and "“" in row[NOTE]).__setitem__(NOTE, '=see "log", p. 3'),
    "neighbours exchanged": lambda data: (lambda k: swap(data.rows, k, k + 1))(data.rnd.randint(0, len(data.rows) - 2)),
    "upside down": lambda data: data.rows.reverse(),
    "a row of nothing": lambda data: data.rows.append([]),
    "null for a row": lambda data: data.rows.insert(4, None),
    "a cell more": lambda data: data.row(0).append("more"),
    "a cell less": lambda data: data.row(NOTE).pop(),
    "columns exchanged": columns_exchanged,
    "headings exchanged": lambda data: swap(data.table["columns"], 3, 4),
    "a column more": lambda data: (data.table["columns"].append({"name": "More", "type": "text"}), [row.append("x") for row in data.rows]),
    "an empty column more": lambda data: (data.table["columns"].append({"name": "More", "type": "text"}), [row.append(None) for row in data.rows]),
    "no type": of_column(COATING, type=None),
    "no unit": of_column(BEFORE, unit=None),
    "no digits shown": of_column(BEFORE, decimals=None),
    "no formula": of_column(LOSS, formula=None),
    "a formula where none was": of_column(AFTER, formula="Gloss_before"),
    "a formula with another sign": of_column(LOSS, formula="100 * (Gloss_before + Gloss_after) / Gloss_before"),
    "a type of numbers": of_column(BEFORE, type="text"),
    "a heading in capitals": of_column(COATING, name="COATING"),
    "a unit with a power": of_column(BEFORE, unit="GU²"),
    "no key": table(lambda t: t.pop("key")),
    "no summaries": table(lambda t: t.pop("summaries")),
    "a summary more": table(lambda t: t["summaries"].append({"name": "Least", "formula": "min(Loss)", "value": 1})),
    "a summary without its unit": of_summary(unit=None),
    "a summary with other digits": of_summary(decimals=5),
    "a summary called otherwise": of_summary(name="Mean"),
    "a summary without its formula": of_summary(formula=None),
    "a summary of nothing": of_summary(value=None),
    "a summary as words": of_summary(value="12"),
    "something else beside": lambda data: data.data.update({"remark": "not checked"}),
    "something else in the table": table(lambda t: t.update({"remark": "not checked"})),
    "something else of a column": of_column(BEFORE, remark="not checked"),
    "a filter": table(lambda t: t.update({"filter": "Cracked = no"})),
    "no tables": lambda data: data.data.update({"tables": []}),
    "an empty table more": lambda data: data.data["tables"].append({"name": "More", "columns": [], "rows": []}),
    "one name for two": twice,
    "one name for two units": twice_in_a_column,
    "more after the end": written(lambda t: t + ' {"tables": []}'),
    "a comma too many": written(lambda t: t.replace("]]", "],]", 1)),
    "a remark": written(lambda t: t.replace('"rows"', '/* old */ "rows"', 1)),
    "single marks": written(lambda t: t.replace('"', "'")),
    "not a number": written(lambda t: re.sub(r"(?<=, )\d+\.\d+", "NaN", t, count=1)),
    "more than can be": written(lambda t: re.sub(r"(?<=, )(\d+\.\d+)", r"\g<1>e400", t, count=1)),
    "read as other letters": written(lambda t: t.encode("utf-8").decode("latin-1")),
    "named rows, a value exchanged": by_name(lambda rows: (lambda a, b: (a.update({"Coating": b["Coating"]}), b.update({"Coating": "Bare"})))(rows[0], rows[1])),
    "named rows, one more": by_name(lambda rows: rows[3].update({"Remark": "not checked"})),
    "named rows, one less": by_name(lambda rows: rows[3].pop("Coating")),
}

JSON_SAME = {
    "untouched": lambda data: None,
    "one blank": lambda data: data.how.update(indent=1),
    "tabs": lambda data: data.how.update(indent="\t"),
    "in order of names": lambda data: data.how.update(sort_keys=True),
    "without blanks": lambda data: data.how.update(separators=(",", ":")),
    "letters in numbers": lambda data: data.how.update(ensure_ascii=True),
    "a mark": lambda data: setattr(data, "whole", b"\xef\xbb\xbf" + data.dump().encode("utf-8")),
    "returns": lambda data: (data.how.update(indent=2), setattr(data, "whole", data.dump().replace("\n", "\r\n").encode("utf-8"))),
    "lines round it": written(lambda t: "\n\n" + t + "\n\n"),
    "slashes": written(lambda t: t.replace("/", "\\/")),
    "letters of small numbers": written(lambda t: t.replace("P-0", "\\u0050-0")),
    "powers": lambda data: [row.__setitem__(BEFORE, row[BEFORE]) for row in data.rows] and setattr(data, "whole", re.sub(r"(?<=[ \[])(\d)(\d)\.(\d+)(?=,)", r"\1.\2\3e1", data.dump()).encode("utf-8")),
    "seventeen digits": lambda data: setattr(data, "whole", re.sub(r"(?<=, )\d+\.\d+", lambda m: "%.17g" % float(m.group()), data.dump()).encode("utf-8")),
    "noughts behind": lambda data: setattr(data, "whole", re.sub(r"(?<=, )(\d+\.\d+)(?=,)", r"\g<1>000", data.dump()).encode("utf-8")),
    "a point behind": lambda data: setattr(data, "whole", re.sub(r"(?<=, )(\d+)(?=,)", r"\g<1>.0", data.dump()).encode("utf-8")),
    "rows by name": by_name(),
    "rows by name in order": lambda data: (by_name()(data), data.how.update(sort_keys=True, indent=2)),
    "rows by name without nothing": by_name(lambda rows: [row.pop(name) for row in rows for name in [n for n, v in row.items() if v is None]]),
    "brackets": of_column(LOSS, formula="((100 * (Gloss_before - Gloss_after)) / Gloss_before)"),
    "blanks in a formula": of_column(LOSS, formula="100*(Gloss_before-Gloss_after)/Gloss_before"),
    "a summary in more blanks": lambda data: data.table["summaries"][0].update(formula="mean( Loss )"),
    "a time of nought": lambda data: [row.__setitem__(DAY, row[DAY] + "T00:00:00") for row in data.rows],
    "a time of nought at Greenwich": lambda data: [row.__setitem__(DAY, row[DAY] + "T00:00:00.000Z") for row in data.rows],
    "no origin": lambda data: data.data.pop("origin"),
    "origin at the end": lambda data: data.data.update({"origin": data.data.pop("origin")}),
    "composed letters": lambda data: setattr(data, "whole", unicodedata.normalize("NFC", data.dump()).encode("utf-8")),
}
