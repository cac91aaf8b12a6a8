"""The small project in which something of everything is said, as the hammer makes it."""

from tools.hammer import picture, whole

__all__ = ["picture", "whole"]
