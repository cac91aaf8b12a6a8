"""Parts of a stop that take turns: folds of the Reference bench, pages of the Eyes bench."""

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from foxpath.document.model import Project
from foxpath.window.stops.on_picture import OnPicture, Picture
from foxpath.window.work.session import Session


class Part(OnPicture):
    """One part of a stop; the stop hands it what happens on the picture while it is open."""

    changed = Signal()
    """What this shows has changed by itself: the bench is brought up to date."""

    def __init__(self, session: Session, picture: Picture, parent: QObject) -> None:
        super().__init__(session, picture, parent)
        self.body = self.make_body()

    @property
    def project(self) -> Project:
        """The present project; a part is only shown when there is one."""
        project = self.session.project
        assert project is not None
        return project

    def make_body(self) -> QWidget:
        """Build what stands in the bench."""
        raise NotImplementedError

    def refresh(self) -> None:
        """Bring the body up to date; only called while it is shown."""
