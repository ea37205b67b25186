"""Mail: letters with their PDF attached, sent over SMTP. Without a server nothing is sent, and that is said.

DORRIK_SMTP names the server (host:port), DORRIK_MAIL_FROM the sender's address. Where DORRIK_SMTP_USER is set, the line
is encrypted before user and DORRIK_SMTP_PASSWORD are given.
"""

import os
import re
import smtplib
import ssl
from collections.abc import Sequence
from dataclasses import dataclass
from email.headerregistry import Address
from email.message import EmailMessage

from email_validator import EmailNotValidError, validate_email

#: How long a server may take to answer (s).
PATIENCE_S = 15


class NotSent(Exception):
    """The mail did not leave; the message says why. `at_address`: the address itself is wrong."""

    def __init__(self, why: str, *, at_address: bool = False) -> None:
        super().__init__(why)
        self.at_address = at_address


@dataclass(frozen=True, slots=True)
class Attachment:
    """A file that goes with a mail."""

    name: str
    pdf: bytes


def server() -> tuple[str, int] | None:
    """Host and port of the mail server (DORRIK_SMTP, such as mail.example:587); None where none is set."""
    host, _, port = os.environ.get("DORRIK_SMTP", "").partition(":")
    return (host, int(port or 25)) if host and (port or "25").isdecimal() else None


def send(sender: str, reply_to: str | None, to: str, subject: str, text: str, attached: Sequence[Attachment]) -> None:
    """Send one mail. sender: the firm's name; reply_to: who wrote it. Raises NotSent."""
    address = recipient(to)
    place = server()
    if place is None:
        raise NotSent("No mail server is set up here (DORRIK_SMTP): print the letter instead.")
    message = EmailMessage()
    message["From"] = f'"{_plain(sender)}" <{os.environ.get("DORRIK_MAIL_FROM", "office@localhost.localdomain")}>'
    if reply_to is not None:
        message["Reply-To"] = _to(reply_to)
    message["To"] = _to(address)
    message["Subject"] = _plain(subject)
    message.set_content(text)
    for one in attached:
        message.add_attachment(one.pdf, maintype="application", subtype="pdf", filename=one.name)
    try:
        with smtplib.SMTP(*place, timeout=PATIENCE_S) as smtp:
            if user := os.environ.get("DORRIK_SMTP_USER"):
                smtp.starttls(context=ssl.create_default_context())
                smtp.login(user, os.environ.get("DORRIK_SMTP_PASSWORD", ""))
            smtp.send_message(message)
    except (OSError, smtplib.SMTPException) as error:
        raise NotSent(f"The mail server did not take it ({type(error).__name__}); nothing was sent.") from None


def recipient(to: str) -> str:
    """The one address that a mail goes to, parsed and normalised. Raises NotSent for anything else."""
    try:
        return validate_email(to.strip(), check_deliverability=False).normalized
    except (EmailNotValidError, UnicodeError):
        raise NotSent("That is no mail address; a letter goes to one.", at_address=True) from None


def _to(address: str) -> Address:
    """An address as a header takes it."""
    local, _, domain = address.rpartition("@")
    return Address(username=local, domain=domain)


def _plain(text: str) -> str:
    """A header's text: one line, without the marks that have a meaning there."""
    return re.sub(r"[\r\n\"<>]+", " ", text).strip()
