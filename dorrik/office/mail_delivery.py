"""Bringing queued mail to its server: at once where somebody waits, else when its time comes."""

import logging
import threading
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from concurrent.futures import TimeoutError as Late
from typing import Any

from sqlalchemy import Connection, Engine
from sqlalchemy.exc import SQLAlchemyError

from dorrik.office import after_report
from dorrik.report import bounces, mail
from dorrik.store.database.engine import now
from dorrik.store.mail import firm_mail, letter_budget, mail_queue
from dorrik.store.mail.mail_queue import Belongs, Taken
from dorrik.store.register import register

#: How long whoever pressed the button waits for the server (s); after that it goes on by itself.
PATIENCE_S = 5.0
#: How often the queue is looked at (s), and how often bounces are, and legal dates.
EVERY_S, BOUNCES_EVERY_S, DATES_EVERY_S = 10.0, 60.0, 3600.0
AT_ONCE = 4
_log = logging.getLogger(__name__)


def server_of(connection: Connection, firm_id: str) -> mail.Server | None:
    """The firm's own mail server, else the installation's; None where there is neither."""
    row = firm_mail.of(connection, firm_id)
    if row is None:
        return mail.server()
    return mail.Server(
        host=row.host, port=row.port, security=row.security, user=row.user or "", password=row.password or "",
        sender=row.sender, public_only=True,
    )  # fmt: skip


def written(
    place: mail.Server, firm_id: str, firm_name: str, reply_to: str | None, to: str, subject: str, text: str,
    attached: Sequence[mail.Attachment],
) -> mail_queue.QueuedLetter:  # fmt: skip
    """A mail as it is queued. to: a parsed address."""
    return mail_queue.QueuedLetter(
        firm_id=firm_id, sender=firm_name, reply_to=reply_to, to=to, subject=subject, text=text,
        message_id=mail.message_id(place.sender), files=[(attachment.name, attachment.pdf) for attachment in attached],
    )  # fmt: skip


class Delivery:
    """Delivers the mail of one database. Several processes may do so at the same time."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._pool = ThreadPoolExecutor(AT_ONCE, thread_name_prefix="mail")

    def try_now(self, mail_id: str, patience_s: float = PATIENCE_S) -> None:
        """Try that mail at once and wait so long; committed before, it stays in the queue if nothing comes of it."""
        task = self._pool.submit(self._one, mail_id)
        try:
            task.result(patience_s)
        except Late:
            return

    def deliver_due(self, firm_id: str | None = None) -> int:
        """Try every mail whose time has come, of one firm where it is given; returns how many there were."""
        mail_queue.look_after(self._engine)
        count = 0
        while self._one(None, firm_id):
            count += 1
        return count

    def _one(self, mail_id: str | None, firm_id: str | None = None) -> bool:
        taken = mail_queue.take(self._engine, mail_id, firm_id)
        if taken is not None:
            self._bring(taken)
        return taken is not None

    def _bring(self, taken: Taken) -> None:
        with self._engine.begin() as connection:
            place = server_of(connection, taken.of.firm_id)

        def about_to() -> None:
            if not mail_queue.leaving(self._engine, taken.id):
                raise _Withdrawn

        try:
            if place is None:
                raise mail.NotSent("No mail server is set up.")
            attached = [mail.Attachment(name, content) for name, content in taken.files]
            reply_to = taken.reply_to and mail.recipient(taken.reply_to)
            message = mail.compose(
                taken.sender, mail.recipient(place.sender), reply_to, taken.to, taken.subject, taken.text, attached,
                taken.message_id,
            )  # fmt: skip
            mail.hand_over(place, taken.to, message, about_to)
        except _Withdrawn:
            return
        except mail.NotSent as error:
            state = mail_queue.not_sent(self._engine, taken, str(error), for_good=error.for_good)
            if state == "failed" and taken.letter_id is not None:
                letter_budget.give_back(self._engine, taken.letter_id)
            return
        with self._engine.begin() as connection:
            mail_queue.sent(connection, taken.id)
            _told_by(connection, taken.of, taken.to)

    def read_bounces(self) -> int:
        """Note the mails that came back; returns how many there were."""
        count = 0
        for bounce in bounces.arrived():
            with self._engine.begin() as connection:
                came_back = mail_queue.bounced(connection, bounce.message_id, bounce.says)
                if came_back is not None:
                    _told_by(connection, came_back, None)
                    count += 1
        return count

    def keep_going(self, stopped: threading.Event, remind: Callable[[], object]) -> None:
        """Deliver until stopped. remind: queues what legal dates ask for."""
        waited, dates = BOUNCES_EVERY_S, DATES_EVERY_S
        while not stopped.wait(EVERY_S):
            waited, dates = waited + EVERY_S, dates + EVERY_S
            try:
                if dates >= DATES_EVERY_S:
                    dates = 0.0
                    remind()
                self.deliver_due()
                if waited >= BOUNCES_EVERY_S:
                    waited = 0.0
                    self.read_bounces()
            except (SQLAlchemyError, OSError) as error:
                # The database or the mailbox does not answer: the next round tries again.
                # What it was about is nobody's business in a log.
                _log.warning("Mail could not be delivered: %s", type(error).__name__)


def _told_by(connection: Connection, of: Belongs, to: str | None) -> None:
    """What a letter belongs to says that it has left; to: where to, None where it came back."""
    if of.inspection_id is not None:
        # A copy counts once it has left, and no longer where it came back.
        after_report.remember(connection, of.firm_id, of.inspection_id)
    if of.kind != "confirmation" or of.job_id is None or of.made_by is None:
        return
    job = register.get(connection, of.firm_id, "job", of.job_id)
    if job is None or job.values.get("removed"):
        return
    values: dict[str, Any] = {"confirmation_sent": None}
    if to is not None:
        confirmed = {"state": "confirmed"} if job.values.get("state") == "asked" else {}
        values = {"confirmation_sent": f"{to}, {now():%-d %B %Y %H:%M} UTC", **confirmed}
    register.change(connection, of.firm_id, of.made_by, "job", of.job_id, values)


class _Withdrawn(Exception):
    """Somebody stopped the mail while its server was being asked."""
