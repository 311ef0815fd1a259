"""What a workbook holds: columns of cells, contents, names, sheets; and the edits of it."""
