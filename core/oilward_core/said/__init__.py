"""What the core says: one module a room, code and facts to sentence.

Nothing else in the core builds a sentence, and no sentence is ever stored to be compared: so every one
of them can be reworded, and nothing that was recorded means anything else for it.
"""
