"""What the pages of practice share: a drill as it is shown, and what a form says."""
