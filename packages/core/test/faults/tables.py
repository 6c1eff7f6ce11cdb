"""Spoils copies of tables, and re-writes them without harm, by libraries that share nothing with ours.

Takes copies in this folder (a.csv, a.xlsx, a.html, a.json) and a seed; writes fault-*.ext and same-*.ext, and prints their names.
"""
import copy
import csv
import datetime
import io
import json
import random
import re
import sys

import openpyxl
from openpyxl.comments import Comment
from openpyxl.formatting.rule import DataBarRule, FormulaRule
from openpyxl.styles import Alignment, Border, Font, PatternFill, Side
from openpyxl.worksheet.datavalidation import DataValidation

SEED, EACH = int(sys.argv[1]), int(sys.argv[2])
names = []


def put(kind, name, ext, data, number):
    path = f"{kind}-{name}-{number}.{ext}"
    with open(path, "wb") as out:
        out.write(data if isinstance(data, bytes) else data.encode("utf-8"))
    names.append(path)


def digit(text, rnd):
    """Another digit somewhere in a number; never one after the thirteenth that counts."""
    places = [i for i, c in enumerate(text) if c.isdigit()]
    lead = next((k for k, i in enumerate(places) if text[i] != "0"), 0)
    at = rnd.choice(places[lead:lead + 13])
    new = rnd.choice([d for d in "123456789" if d != text[at]])
    return text[:at] + new + text[at + 1:]


def letters(text, rnd):
    at = rnd.choice([i for i, c in enumerate(text) if c.isalpha()])
    return text[:at] + chr((ord(text[at].lower()) - 97 + rnd.randint(1, 25)) % 26 + 97).upper() + text[at + 1:]


# Columns: Panel, Coating, Measured, Gloss before, Gloss after, Cracked, Loss, Above the mean, Note.
TEXT, CATEGORY, DATE, NUMBERS, YES, LOSS, NOTE = 0, 1, 2, (3, 4), 5, 6, 8


def filled(rows, column, rnd, wanted=lambda text: True):
    return rnd.choice([r for r in range(1, len(rows)) if rows[r][column] not in ("", None) and wanted(rows[r][column])])


# ---------------------------------------------------------------- rows of words (CSV)
def row_faults():
    def f(act):
        def run(rows, rnd):
            act(rows, rnd)
            return rows
        return run

    def cell(column, change, wanted=lambda text: True):
        def act(rows, rnd):
            c = column if isinstance(column, int) else rnd.choice(column)
            r = filled(rows, c, rnd, wanted)
            rows[r][c] = change(rows[r][c], rnd)
        return act

    def swap_columns(rows, rnd):
        for row in rows:
            row[0], row[1] = row[1], row[0]

    def sort_one(rows, rnd):
        ordered = sorted((row[3] for row in rows[1:]), key=float)
        for row, value in zip(rows[1:], ordered):
            row[3] = value

    def move_up(rows, rnd):
        rows.insert(1, rows.pop(rnd.randint(5, len(rows) - 1)))

    def swap_values(rows, rnd):
        a, b = rnd.sample(range(1, len(rows)), 2)
        while rows[a][3] == rows[b][3]:
            a, b = rnd.sample(range(1, len(rows)), 2)
        rows[a][3], rows[b][3] = rows[b][3], rows[a][3]

    def drop(rows, rnd):
        c = rnd.choice(range(1, len(rows[0])))
        for row in rows:
            del row[c]

    def rounded(rows, rnd):
        for row in rows[1:]:
            row[3] = str(round(float(row[3])))

    def blank(rows, rnd):
        c = rnd.choice((0, 1, 2, 3, 5))
        rows[filled(rows, c, rnd)][c] = ""

    def other_day(text, rnd):
        day = datetime.date.fromisoformat(text) + datetime.timedelta(days=rnd.choice((-400, -31, -1, 1, 7, 30)))
        return day.isoformat()

    return {
        "digit": f(cell(NUMBERS, digit)),
        "sign": f(cell(NUMBERS, lambda t, r: "-" + t)),
        "tenfold": f(cell(NUMBERS, lambda t, r: repr(float(t) * 10))),
        "letter": f(cell(CATEGORY, letters)),
        "key letter": f(cell(TEXT, letters)),
        "zero dropped": f(cell(TEXT, lambda t, r: t.replace("-0", "-", 1))),
        "case": f(cell(CATEGORY, lambda t, r: t.upper())),
        "day": f(cell(DATE, other_day)),
        "yes for no": f(cell(YES, lambda t, r: "no" if t == "yes" else "yes")),
        "words for a number": f(cell(NUMBERS, lambda t, r: "n/a")),
        "blank": f(blank),
        "row dropped": f(lambda rows, rnd: rows.pop(rnd.randint(1, len(rows) - 1))),
        "row twice": f(lambda rows, rnd: rows.insert(2, list(rows[rnd.randint(1, len(rows) - 1)]))),
        "row added": f(lambda rows, rnd: rows.append(["P-9%d" % rnd.randint(10, 99)] + [""] * (len(rows[0]) - 1))),
        "row moved": f(move_up),
        "values swapped": f(swap_values),
        "column sorted alone": f(sort_one),
        "columns swapped": f(swap_columns),
        "column dropped": f(drop),
        "column added": f(lambda rows, rnd: [row.append("x%d" % i) for i, row in enumerate(rows)]),
        "heading": f(lambda rows, rnd: rows[0].__setitem__(0, letters(rows[0][0], rnd))),
        "unit": f(lambda rows, rnd: rows[0].__setitem__(3, rows[0][3].replace("GU", "mm"))),
        "headings swapped": f(lambda rows, rnd: rows[0].__setitem__(slice(3, 5), [rows[0][4], rows[0][3]])),
        "rounded": f(rounded),
        "apostrophe lost": f(cell(NOTE, lambda t, r: t.lstrip("'"), lambda t: t.startswith("'"))),
        "empty row": f(lambda rows, rnd: rows.insert(rnd.randint(2, len(rows) - 2), [""] * len(rows[0]))),
    }


def csv_text(rows, **how):
    out = io.StringIO()
    csv.writer(out, **how).writerows(rows)
    return out.getvalue()


def comma(row):
    return [re.sub(r"^(-?\d+)\.(\d+)$", r"\1,\2", cell) for cell in row]


def spoil_csv():
    rows = list(csv.reader(io.StringIO(open("a.csv", newline="", encoding="utf-8").read())))
    for name, act in row_faults().items():
        for i in range(EACH):
            rnd = random.Random(f"{SEED} csv {name} {i}")
            put("fault", name, "csv", csv_text(act(copy.deepcopy(rows), rnd)), i)
    whole = csv_text(rows)
    for i in range(EACH):
        rnd = random.Random(f"{SEED} csv cut {i}")
        put("fault", "cut short", "csv", whole[: rnd.randint(len(whole) // 4, len(whole) - 200)], i)
    put("fault", "decimal mark lost", "csv", re.sub(r"(?<=\d)\.(?=\d)", "", whole, count=1), 0)
    same = {
        "semicolons": csv_text(rows, delimiter=";"),
        "tabs": csv_text(rows, delimiter="\t"),
        "bars": csv_text(rows, delimiter="|"),
        "all quoted": csv_text(rows, quoting=csv.QUOTE_ALL),
        "line feeds": csv_text(rows, lineterminator="\n"),
        "mark of encoding": "\ufeff" + whole,
        "sixteen bits": whole.encode("utf-16"),
        "no last end": whole.rstrip("\r\n"),
        "decimal commas": csv_text([comma(row) for row in rows], delimiter=";"),
        "more zeros": csv_text([[re.sub(r"^(\d+\.\d+)$", r"\g<1>00", c) for c in row] for row in rows]),
        "exponents": csv_text([rows[0]] + [[("%.15e" % float(c)) if i in NUMBERS and c else c for i, c in enumerate(row)] for row in rows[1:]]),
        "true and false": csv_text([rows[0]] + [[{"yes": "TRUE", "no": "FALSE"}.get(c, c) for c in row] for row in rows[1:]]),
        "dates with a time": csv_text([rows[0]] + [[c + " 00:00:00" if i == DATE else c for i, c in enumerate(row)] for row in rows[1:]]),
    }
    for name, data in same.items():
        put("same", name, "csv", data, 0)


# ---------------------------------------------------------------- workbooks
def spoil_xlsx():
    def save(wb):
        out = io.BytesIO()
        wb.save(out)
        return out.getvalue()

    def book():
        return openpyxl.load_workbook("a.xlsx")

    def row(ws, rnd, column):
        return rnd.choice([r for r in range(2, ws.max_row + 1) if ws.cell(r, column).value not in (None, "")])

    def number(change):
        def act(wb, ws, rnd):
            c = rnd.choice((4, 5))
            r = row(ws, rnd, c)
            ws.cell(r, c).value = change(ws.cell(r, c).value, rnd)
        return act

    def word(column, change):
        def act(wb, ws, rnd):
            r = row(ws, rnd, column)
            ws.cell(r, column).value = change(ws.cell(r, column).value, rnd)
        return act

    def each(column, change):
        def act(wb, ws, rnd):
            for r in range(2, ws.max_row + 1):
                if ws.cell(r, column).value is not None:
                    ws.cell(r, column).value = change(ws.cell(r, column).value)
        return act

    def swap(wb, ws, rnd):
        for r in range(1, ws.max_row + 1):
            ws.cell(r, 4).value, ws.cell(r, 5).value = ws.cell(r, 5).value, ws.cell(r, 4).value

    def hide_column(wb, ws, rnd):
        ws.column_dimensions[rnd.choice("ABCDEF")].hidden = True

    def hide_row(wb, ws, rnd):
        ws.row_dimensions[rnd.randint(2, ws.max_row)].hidden = True

    def copy_row(wb, ws, rnd):
        r = rnd.randint(2, ws.max_row)
        for c in range(1, 7):
            ws.cell(ws.max_row + (1 if c == 1 else 0), c).value = ws.cell(r, c).value

    def formats(code):
        def act(wb, ws, rnd):
            for r in range(2, ws.max_row + 1):
                ws.cell(r, 4).number_format = code
        return act

    def look(change, column=5):
        def act(wb, ws, rnd):
            change(ws.cell(row(ws, rnd, column), column))
        return act

    def painted_over(cell):
        cell.font, cell.fill = Font(color="FF102030"), PatternFill("solid", fgColor="FF102030")

    def value_for_formula(wb, ws, rnd):
        ws.cell(rnd.randint(2, ws.max_row), 7).value = rnd.uniform(10, 40)

    def values_for_formulas(wb, ws, rnd):
        for r in range(2, ws.max_row + 1):
            ws.cell(r, 7).value = 20 + r / 7

    def other_formula(wb, ws, rnd):
        r = rnd.randint(2, ws.max_row)
        ws.cell(r, 7).value = ws.cell(r, 7).value.replace("100*", rnd.choice(("101*", "10*", "-100*")))

    def other_formulas(wb, ws, rnd):
        for r in range(2, ws.max_row + 1):
            ws.cell(r, 7).value = ws.cell(r, 7).value.replace("/D", "/E")

    def neighbour(wb, ws, rnd):
        r = rnd.randint(3, ws.max_row)
        ws.cell(r, 7).value = ws.cell(r, 7).value.replace(f"D{r}", f"D{r - 1}", 1)

    def short_range(wb, ws, rnd):
        s = wb[wb.sheetnames[1]]
        s["B2"].value = re.sub(r"G(\d+)\)", lambda m: f"G{int(m.group(1)) - rnd.randint(1, 9)})", s["B2"].value)

    def condition(ws, **look):
        ws.conditional_formatting.add("B2:D9", FormulaRule(formula=["TRUE"], **look))

    faults = {
        "white on a condition": lambda wb, ws, rnd: condition(ws, font=Font(color="FFFFFF")),
        "struck on a condition": lambda wb, ws, rnd: condition(ws, font=Font(strike=True)),
        "dark on a condition": lambda wb, ws, rnd: condition(ws, fill=PatternFill(bgColor="0A0A0A")),
        "bars over numbers": lambda wb, ws, rnd: ws.conditional_formatting.add("D2:D9", DataBarRule("min", None, "max", None, color="000000", showValue=False)),
        "digit": number(lambda v, rnd: float(digit(repr(float(v)), rnd))),
        "sign": number(lambda v, rnd: -v),
        "tenfold": number(lambda v, rnd: v * 10),
        "blank": number(lambda v, rnd: None),
        "words for a number": number(lambda v, rnd: "n/a"),
        "number as words": number(lambda v, rnd: str(v) + " "),
        "letter": word(2, letters),
        "key letter": word(1, letters),
        "day": word(3, lambda v, rnd: v + datetime.timedelta(days=rnd.choice((-365, -30, -1, 1, 31)))),
        "yes for no": word(6, lambda v, rnd: not v),
        "row dropped": lambda wb, ws, rnd: ws.delete_rows(rnd.randint(2, ws.max_row)),
        "row twice": copy_row,
        "columns of values swapped": swap,
        "column dropped": lambda wb, ws, rnd: ws.delete_cols(9),
        "column added": lambda wb, ws, rnd: [ws.cell(r, 10, "x%d" % r) for r in range(1, ws.max_row + 1)],
        "heading": lambda wb, ws, rnd: ws.cell(1, 9, letters("Note", rnd)),
        "unit": lambda wb, ws, rnd: ws.cell(1, 4, "Gloss before (mm)"),
        "rounded": each(4, lambda v: float(round(v))),
        "numbers as words": each(5, lambda v: str(v)),
        "dates as words": each(3, lambda v: v.strftime("%d.%m.%Y")),
        "percent": formats("0%"),
        "thousands": formats("#,##0,"),
        "more digits shown": formats("0.000"),
        "nothing shown": formats(";;;"),
        "other words shown": look(lambda cell: setattr(cell, "number_format", '0;0;0;"Reed oil"'), 2),
        "words not shown": look(lambda cell: setattr(cell, "number_format", "General;General;General;"), 9),
        "month alone": look(lambda cell: setattr(cell, "number_format", "mmm yyyy"), 3),
        "day without its year": look(lambda cell: setattr(cell, "number_format", "d mmm"), 3),
        "dark on dark": look(painted_over),
        "white": look(lambda cell: setattr(cell, "font", Font(color="FFFFFFFF")), 2),
        "struck": look(lambda cell: setattr(cell, "font", Font(strike=True)), 2),
        "filled with its words": look(lambda cell: setattr(cell, "alignment", Alignment(horizontal="fill")), 2),
        "formula taken out": look(lambda cell: setattr(cell, "value", None), 7),
        "hidden row": hide_row,
        "hidden column": hide_column,
        "hidden sheet": lambda wb, ws, rnd: setattr(wb[wb.sheetnames[1]], "sheet_state", "hidden"),
        "merged": lambda wb, ws, rnd: ws.merge_cells("B3:B5"),
        "value for a formula": value_for_formula,
        "values for formulas": values_for_formulas,
        "other formula": other_formula,
        "other formulas": other_formulas,
        "the row above": neighbour,
        "range cut short": short_range,
        "other summary": lambda wb, ws, rnd: wb[wb.sheetnames[1]].__setitem__("B2", wb[wb.sheetnames[1]]["B2"].value.replace("AVERAGE", rnd.choice(("MEDIAN", "MAX", "SUM")))),
        "summary named otherwise": lambda wb, ws, rnd: wb[wb.sheetnames[1]].__setitem__("A2", "Mean los (%)"),
        "sheet renamed": lambda wb, ws, rnd: setattr(ws, "title", "Panel"),
        "sheet added": lambda wb, ws, rnd: wb.create_sheet("More").append(["a", "b"]),
    }
    for name, act in faults.items():
        for i in range(EACH):
            rnd = random.Random(f"{SEED} xlsx {name} {i}")
            wb = book()
            act(wb, wb[wb.sheetnames[0]], rnd)
            put("fault", name, "xlsx", save(wb), i)

    def paint(wb, ws):
        for c in ws[1]:
            c.fill = PatternFill("solid", fgColor="FFDDEE")
            c.font = Font(name="Courier", italic=True)

    def validate(wb, ws):
        rule = DataValidation(type="list", formula1='"Reed oil,Fen wax"')
        ws.add_data_validation(rule)
        rule.add("B2:B9")

    def dates(wb, ws):
        for r in range(2, ws.max_row + 1):
            ws.cell(r, 3).number_format = "dd.mm.yyyy"

    same = {
        "saved again": lambda wb, ws: None,
        "wider": lambda wb, ws: setattr(ws.column_dimensions["A"], "width", 44),
        "painted": paint,
        "not frozen": lambda wb, ws: setattr(ws, "freeze_panes", None),
        "zoomed": lambda wb, ws: setattr(ws.sheet_view, "zoomScale", 140),
        "another author": lambda wb, ws: setattr(wb.properties, "creator", "Tilda Moor"),
        "a comment": lambda wb, ws: setattr(ws["B2"], "comment", Comment("seen", "T")),
        "filtered heads": lambda wb, ws: setattr(ws.auto_filter, "ref", "A1:I25"),
        "landscape": lambda wb, ws: setattr(ws.page_setup, "orientation", "landscape"),
        "a coloured tab": lambda wb, ws: setattr(ws.sheet_properties, "tabColor", "1072BA"),
        "choices": validate,
        "light grey on a condition": lambda wb, ws: condition(ws, fill=PatternFill(bgColor="EEEEEE")),
        "bold and red on a condition": lambda wb, ws: condition(ws, font=Font(bold=True, color="9A1B1B"), border=Border(left=Side(style="thin"))),
        "dates shown otherwise": dates,
    }
    for name, act in same.items():
        wb = book()
        act(wb, wb[wb.sheetnames[0]])
        put("same", name, "xlsx", save(wb), 0)


# ---------------------------------------------------------------- pages
def spoil_html():
    page = open("a.html", encoding="utf-8").read()

    def nth(pattern, change, text, rnd):
        found = list(re.finditer(pattern, text))
        one = rnd.choice(found)
        return text[: one.start()] + change(one) + text[one.end():]

    rows = r"<tr><td>P-.*?</tr>"

    def within(before, after):
        return lambda t, rnd: nth(r"(?<=<td>)(Reed oil|Fen wax|Tarn lacquer|Bare)", lambda m: before + m.group() + after, t, rnd)
    faults = {
        "digit": lambda t, rnd: nth(r'(?<=class="number">)\d+\.?\d*(?=<)', lambda m: digit(m.group(), rnd), t, rnd),
        "digit shown": lambda t, rnd: nth(r'(?<=">)\d+\.\d+(?=</data>)', lambda m: digit(m.group(), rnd), t, rnd),
        "digit held": lambda t, rnd: nth(r'(?<=<data value=")\d+\.\d+', lambda m: digit(m.group(), rnd), t, rnd),
        "letter": lambda t, rnd: nth(r"(?<=<td>)(Reed oil|Fen wax|Tarn lacquer|Bare)", lambda m: letters(m.group(), rnd), t, rnd),
        "key": lambda t, rnd: nth(r"(?<=<td>)P-\d+", lambda m: m.group()[:-1] + "x", t, rnd),
        "day": lambda t, rnd: nth(r'<time datetime="[^"]*">[^<]*', lambda m: '<time datetime="2020-02-02">2020-02-02', t, rnd),
        "yes for no": lambda t, rnd: nth(r"<td>no</td>", lambda m: "<td>yes</td>", t, rnd),
        "row dropped": lambda t, rnd: nth(rows, lambda m: "", t, rnd),
        "row twice": lambda t, rnd: nth(rows, lambda m: m.group() * 2, t, rnd),
        "row hidden": lambda t, rnd: nth(r"<tr>(?=<td>P-)", lambda m: "<tr hidden>", t, rnd),
        "row not displayed": lambda t, rnd: nth(r"<tr>(?=<td>P-)", lambda m: '<tr style="display: none">', t, rnd),
        "cell dropped": lambda t, rnd: nth(r"<td>(Reed oil|Fen wax|Bare)</td>", lambda m: "", t, rnd),
        "cells joined": lambda t, rnd: nth(r"<td>(?=Reed|Fen|Bare)", lambda m: '<td colspan="2">', t, rnd),
        "heading": lambda t, rnd: t.replace(">Cracked<", ">Split<"),
        "unit": lambda t, rnd: t.replace("<small>GU</small>", "<small>mm</small>", 1),
        "caption": lambda t, rnd: t.replace("<caption>Panels", "<caption>Panel"),
        "table twice": lambda t, rnd: t.replace("</body>", "<table><tr><th>a</th></tr><tr><td>1</td></tr></table></body>"),
        "cut short": lambda t, rnd: t[: len(t) * rnd.randint(3, 8) // 10],
        "summary": lambda t, rnd: nth(r'(?<=<td class="number">)\d+(?=</td></tr>\n<tr><th scope="row">Worst)', lambda m: "21", t, rnd),
        "span hidden": within('<span hidden>', "</span>"),
        "span not displayed": within('<span style="display: none">', "</span>"),
        "span of no size": within('<span style="font-size: 0">', "</span>"),
        "span of one pixel": within('<span style="font-size: 1px">', "</span>"),
        "span white": within('<span style="color: #fff">', "</span>"),
        "span transparent": within('<span style="color: transparent">', "</span>"),
        "span without cover": within('<span style="color: rgba(20, 33, 58, 0)">', "</span>"),
        "span seen through": within('<span style="opacity: 0">', "</span>"),
        "span off the page": within('<span style="position: absolute; left: -999em">', "</span>"),
        "span turned over": within('<span style="transform: scaleX(-1)">', "</span>"),
        "span cut off": within('<span style="clip-path: inset(50%)">', "</span>"),
        "words deleted": within("<del>", "</del>"),
        "words struck": within("<s>", "</s>"),
        "words struck by style": within('<span style="text-decoration: line-through">', "</span>"),
        "words backwards": within('<bdo dir="rtl">', "</bdo>"),
        "cell from right to left": lambda t, rnd: nth(r"<td>(?=Reed|Fen|Bare)", lambda m: '<td dir="rtl">', t, rnd),
        "cell collapsed": lambda t, rnd: nth(r"<td>(?=Reed|Fen|Bare)", lambda m: '<td style="visibility: collapse">', t, rnd),
        "cell in its ground": lambda t, rnd: nth(r"<td>(?=Reed|Fen|Bare)", lambda m: '<td style="background: #14213a">', t, rnd),
        "body hidden": lambda t, rnd: t.replace("<body", "<body hidden", 1),
        "body unseen": lambda t, rnd: t.replace("<body", '<body style="opacity:0"', 1),
        "another page": lambda t, rnd: t.replace("<title>", '<meta http-equiv="refresh" content="0;url=b.html"><title>'),
        "another base": lambda t, rnd: t.replace("<title>", '<base href="https://fen.example/"><title>'),
        "bare words": lambda t, rnd: t.replace('<table class="rows">', 'All values are wrong.<table class="rows">', 1),
        "words above": lambda t, rnd: t.replace("<body>", "<body><p>All values are wrong.</p>"),
        "style": lambda t, rnd: t.replace("</style>", "td:nth-child(4){display:none}</style>"),
        "white letters by a sheet": lambda t, rnd: t.replace("</style>", "td{color:#fefefe}</style>"),
        "dark ground by a sheet": lambda t, rnd: t.replace("</style>", "table{background:#14213a}</style>"),
        "size by a sheet": lambda t, rnd: t.replace("</style>", "td{font-size:1px}</style>"),
        "hidden while pointed at": lambda t, rnd: t.replace("</style>", "body:hover td{display:none}</style>"),
        "another sheet brought in": lambda t, rnd: t.replace("</style>", "@import url(https://fen.example/x.css);</style>"),
        "words before by a sheet": lambda t, rnd: t.replace("</style>", "td::before{content:'0'}</style>"),
        "hidden on paper": lambda t, rnd: t.replace("</style>", "@media print{td{visibility:hidden}}</style>"),
        "grounds in the dark": lambda t, rnd: t.replace("</style>", "@media (prefers-color-scheme:dark){td{color:#eee}}</style>"),
    }
    for name, act in faults.items():
        for i in range(EACH):
            rnd = random.Random(f"{SEED} html {name} {i}")
            put("fault", name, "html", act(page, rnd), i)
    same = {
        "capitals": re.sub(r"</?(table|tr|td|th|thead|tbody)\b", lambda m: m.group().upper(), page),
        "indented": page.replace("<tr>", "\n    <tr>").replace("</tr>", "\n    </tr>"),
        "no quotes": re.sub(r'class="number"', "class=number", page),
        "a comment": page.replace("<body>", "<body><!-- made for the reserve -->"),
        "ends of cells left out": page.replace("</td>", ""),
        "no classes of cells": page.replace('<td class="number">', "<td>"),
        "references": page.replace("oil", "&#111;il"),
        "another meta": page.replace("<title>", '<meta name="robots" content="noindex"><title>'),
        "line ends": page.replace("\n", "\r\n"),
        "bold words": page.replace("<td>Fen wax", "<td><b>Fen wax</b>"),
        "a coloured row": page.replace("<tr><td>P-003", '<tr style="background-color: #eef4e8; color: #222"><td>P-003'),
        "larger letters": page.replace("<body", '<body style="font-size: 18px; margin: 1em"', 1),
        "a sheet of colours": page.replace("</style>", "th{color:#402010;background:#fffdf0}</style>"),
        "a sheet while pointed at": page.replace("</style>", "tr:hover,td:focus{background:#dde;color:#400}</style>"),
        "a sheet of lines": page.replace("</style>", "td{border-bottom:1px dotted #888;padding:.5rem}</style>"),
        "other colours of ours": page.replace("#c9d4ce", "#888888").replace("#14213a", "#222"),
        "no sheet": re.sub(r"<style>.*?</style>", "", page, flags=re.S),
        "a section around": page.replace("<body>", "<body><div class=page><main>").replace("</body>", "</main></div></body>"),
    }
    for name, data in same.items():
        put("same", name, "html", data, 0)


# ---------------------------------------------------------------- data
def spoil_json():
    whole = json.load(open("a.json", encoding="utf-8"))

    def value(change, columns=NUMBERS):
        def act(d, rnd):
            rows = d["tables"][0]["rows"]
            c = rnd.choice(columns)
            r = rnd.choice([i for i, row in enumerate(rows) if row[c] is not None])
            rows[r][c] = change(rows[r][c], rnd)
        return act

    def column(which, **said):
        def act(d, rnd):
            for name, new in said.items():
                d["tables"][0]["columns"][which][name] = new
        return act

    faults = {
        "digit": value(lambda v, rnd: float(digit(repr(float(v)), rnd))),
        "sign": value(lambda v, rnd: -v),
        "null": value(lambda v, rnd: None),
        "computed value null": value(lambda v, rnd: None, (LOSS,)),
        "other key": lambda d, rnd: d["tables"][0].__setitem__("key", rnd.choice(("Coating", "Note"))),
        "empty row": lambda d, rnd: d["tables"][0]["rows"].insert(rnd.randint(1, 20), [None] * 9),
        "words": value(lambda v, rnd: str(v)),
        "letter": value(letters, (0, 1)),
        "yes for no": value(lambda v, rnd: not v, (5,)),
        "day": value(lambda v, rnd: "2019" + v[4:], (2,)),
        "row dropped": lambda d, rnd: d["tables"][0]["rows"].pop(rnd.randint(0, 20)),
        "row moved": lambda d, rnd: d["tables"][0]["rows"].insert(0, d["tables"][0]["rows"].pop(rnd.randint(3, 20))),
        "type": column(1, type="text"),
        "unit": column(3, unit="mm"),
        "digits shown": column(3, decimals=3),
        "formula": column(6, formula="100 * (Gloss_before - Gloss_after) / Gloss_after"),
        "name": column(5, name="Split"),
        "table named otherwise": lambda d, rnd: d["tables"][0].__setitem__("name", "Panel"),
        "summary": lambda d, rnd: d["tables"][0]["summaries"][0].__setitem__("value", rnd.uniform(1, 9)),
        "summary dropped": lambda d, rnd: d["tables"][0]["summaries"].pop(),
        "summary computed otherwise": lambda d, rnd: d["tables"][0]["summaries"][0].__setitem__("formula", "median(Loss)"),
        "table twice": lambda d, rnd: d["tables"].append(d["tables"][0]),
    }
    for name, act in faults.items():
        for i in range(EACH):
            rnd = random.Random(f"{SEED} json {name} {i}")
            d = copy.deepcopy(whole)
            act(d, rnd)
            put("fault", name, "json", json.dumps(d), i)
    put("fault", "cut short", "json", json.dumps(whole)[:-40], 0)
    heads = [c["name"] for c in whole["tables"][0]["columns"]]
    named = copy.deepcopy(whole)
    named["tables"][0]["rows"] = [dict(zip(heads, row)) for row in whole["tables"][0]["rows"]]
    same = {
        "indented": json.dumps(whole, indent=2),
        "keys in order": json.dumps(whole, sort_keys=True),
        "plain letters": json.dumps(whole, ensure_ascii=True),
        "packed": json.dumps(whole, separators=(",", ":")),
        "rows by name": json.dumps(named),
        "formulas in brackets": json.dumps(whole).replace("100 * (Gloss_before - Gloss_after) / Gloss_before", "(100*(Gloss_before-Gloss_after))/Gloss_before"),
    }
    for name, data in same.items():
        put("same", name, "json", data, 0)


spoil_csv()
spoil_xlsx()
spoil_html()
spoil_json()
print(json.dumps(names))
