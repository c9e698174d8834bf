"""The rules and computation of servicing a motorcycle's lubricants.

Pure Python: frozen dataclasses in, frozen dataclasses out. No Django, no files,
no clock, no globals; "now" and "today" are arguments.
"""
