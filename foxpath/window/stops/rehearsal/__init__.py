"""Stop 8, Rehearsal: `stop` plays and saves it, `painted` says how it came out part by part, `hierarchy` plots where the detail went."""
