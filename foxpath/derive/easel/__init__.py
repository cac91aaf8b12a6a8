"""The easel: the steps of a sitting one by one, and what runs while they are painted."""
