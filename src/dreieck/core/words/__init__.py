"""What people read: formulas said in words, headings, explanations, suggestions."""
