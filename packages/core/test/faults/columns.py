"""The columns of the table whose copies are changed."""
# Columns: Panel, Coating, Measured, Gloss before, Gloss after, Cracked, Loss, Above the mean, Note.
PANEL, COATING, DAY, BEFORE, AFTER, CRACKED, LOSS, ABOVE, NOTE = range(9)
MEASURED = (BEFORE, AFTER)


def swap(lines, a, b):
    lines[a], lines[b] = lines[b], lines[a]
