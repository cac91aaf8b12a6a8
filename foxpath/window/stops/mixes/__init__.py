"""The Mixes stop: piles, tubes, spots of the picture, and paint over paint."""
