"""The Days stop: weeks of sittings with the strands of their paint (`weeks`), what stands beside them (`side`), and the pages of its bench."""
