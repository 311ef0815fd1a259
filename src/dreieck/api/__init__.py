"""What is asked of a workbook from outside, and answered: over HTTP and by commands alike.

Models of requests and answers, and how each answer comes about; ``web/api`` and ``cli`` are doors.
"""
