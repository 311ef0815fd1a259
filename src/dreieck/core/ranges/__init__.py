"""What a formula finds in a range: its values, totals, an index of them, moving windows."""
