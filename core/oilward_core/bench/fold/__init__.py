"""The fold: entries to facts, facts to where each step stands."""
