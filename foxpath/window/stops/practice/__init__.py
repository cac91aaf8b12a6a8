"""Stop 13, Practice: drills on the picture, and how they went over weeks."""
