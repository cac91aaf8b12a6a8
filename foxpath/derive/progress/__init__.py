"""Progress: photographs of the canvas against the plan of the passes done, and what to touch up."""
