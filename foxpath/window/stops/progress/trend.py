"""How parts came along over the photographs, and the painter's usual errors."""

from dataclasses import dataclass

from PySide6.QtWidgets import QWidget

from foxpath.core.reporting import Progress
from foxpath.core.units import count_words
from foxpath.derive.progress.reading import PhotoRead, Trend, Usual, trends, usual_errors
from foxpath.document import errors
from foxpath.window.bench.bench import stack
from foxpath.window.bench.rows import Row, Rows, Section, TallRows, Words


class TrendPage(QWidget):
    """The page of the trend."""

    def __init__(self) -> None:
        super().__init__()
        self.words = Words("", 12.5)
        self.trend_head = Section("Part by part", "ΔE from the plan, photograph by photograph")
        self.trend = TallRows("how parts came along")
        self.usual_head = Section("Your usual errors", "over all photographs")
        self.usual = Rows("your usual errors")
        stack(self, self.words, self.trend_head, self.trend, self.usual_head, self.usual)

    def show_reads(self, reads: list[PhotoRead]) -> None:
        """Show what was read off photographs, earliest first."""
        made: tuple[Trend, ...] = trends(reads)
        many = len({one.photo.id for one in reads if one.photo is not None})
        if many < 2:
            self.words.set_words(
                "With a second photograph it is seen which parts came nearer, and whether the last sitting helped."
            )
        else:
            better = sum(one.better for one in made) / max(1, len(made))
            word = "nearer to" if better > 0.2 else "farther from" if better < -0.2 else "as near as before to"
            self.words.set_words(
                f"The last sitting brought the parts {word} the plan, by {abs(better):.1f} ΔE in the mean."
            )
        rows = [
            Row(
                one.zone,
                one.name,
                " → ".join(f"{point.de:.1f}" for point in one.points[-6:]),
                f"{one.better:+.1f}" if len(one.points) > 1 else "",
            )
            for one in made
        ]
        self.trend.set_rows(rows, "")
        self.trend.setVisible(bool(rows))
        usual: tuple[Usual, ...] = usual_errors(reads)
        self.usual_head.set_words("Your usual errors", f"over {count_words(many, 'photograph')}")
        self.usual.set_rows([Row(one.words, one.words, "", f"{one.count} ×") for one in usual], "")
        self.usual.setVisible(bool(usual))


@dataclass(frozen=True, slots=True, eq=False)
class KeepErrors:
    """Put the errors that a painting's photographs told into the painter's own file."""

    painting: str
    reads: tuple[PhotoRead, ...]

    def __call__(self, progress: Progress) -> None:
        """Write it. Raises `AppError`."""
        progress.at(0, "keeping what was told")
        found = usual_errors(list(self.reads))
        errors.keep(self.painting, [(one.words, one.count, one.photographs) for one in found])
