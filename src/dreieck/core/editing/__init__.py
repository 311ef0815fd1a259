"""What people do: entering, filling, copying, moving, inserting, naming, lifting; as edits."""
