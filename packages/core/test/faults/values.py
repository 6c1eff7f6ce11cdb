"""Spoils values in lines of cells and in JSON, and re-writes them without harm, letter by letter (no library of tables).

python3 values.py SEED EACH
Takes a.csv and a.json in this folder; writes fault-* and same-*, and prints their names.
"""
from json_values import JSON_FAULTS, JSON_SAME, Data
from lines_of_cells import CSV_FAULTS, CSV_SAME, Lines
from outsider import told, write

told(write("csv", Lines, CSV_FAULTS, CSV_SAME) + write("json", Data, JSON_FAULTS, JSON_SAME))
