"""Mixes: what colours the plan asks for, the palette that serves them, and what is said of it."""
