#!/usr/bin/python3
"""Pastes tab-separated text into a spreadsheet, saves it, reads the file again and prints its cells as JSON."""
import csv
import json
import sys

import openpyxl

source, target = sys.argv[1:]
book = openpyxl.Workbook()
with open(source, encoding="utf-8", newline="") as text:
    for row in csv.reader(text, dialect="excel-tab"):
        book.active.append(row)
for line in book.active.iter_rows():
    for cell in line:
        if isinstance(cell.value, str):
            cell.data_type = "s"  # what begins with "=" is text
book.save(target)
rows = openpyxl.load_workbook(target).active.iter_rows(values_only=True)
print(json.dumps([["" if cell is None else str(cell) for cell in row] for row in rows]))
