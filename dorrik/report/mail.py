"""Mail: letters with their PDF attached, sent over SMTP. Without a server nothing is sent, and that is said.

DORRIK_SMTP names the server (host:port), DORRIK_MAIL_FROM the sender's address. Where DORRIK_SMTP_USER is set, the line
is encrypted before user and DORRIK_SMTP_PASSWORD are given.
"""

import os
import re
import smtplib
import ssl
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from email.header import Header
from email.mime.application import MIMEApplication
from email.mime.base import MIMEBase
from email.mime.multipart import MIMEMultipart
from email.mime.text import MIMEText
from email.policy import compat32
from email.utils import format_datetime, make_msgid

from dorrik.store import people

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
    sent_from = recipient(os.environ.get("DORRIK_MAIL_FROM", "office@localhost.localdomain"))
    message = compose(sender, sent_from, reply_to and recipient(reply_to), address, subject, text, attached)
    options = () if address.isascii() and (reply_to or "").isascii() else ("SMTPUTF8",)
    try:
        with smtplib.SMTP(*place, timeout=PATIENCE_S) as smtp:
            if user := os.environ.get("DORRIK_SMTP_USER"):
                smtp.starttls(context=ssl.create_default_context())
                smtp.login(user, os.environ.get("DORRIK_SMTP_PASSWORD", ""))
            smtp.sendmail(sent_from, [address], message, mail_options=options)
    except (OSError, smtplib.SMTPException) as error:
        raise NotSent(f"The mail server did not take it ({type(error).__name__}); nothing was sent.") from None


def compose(
    sender: str, sent_from: str, reply_to: str | None, to: str, subject: str, text: str,
    attached: Sequence[Attachment],
) -> bytes:  # fmt: skip
    """A mail as it goes over the line (RFC 5322). The addresses have gone through `recipient`.

    The library's newer interface reads a header's text as the protocol before it writes it: an encoded word in a name
    became lines of the head, a long quoted name lost its quotes where it was folded. Here each text is put into the
    protocol's form once (RFC 2047) and written as it is.
    """
    body = MIMEText(text, "plain", "utf-8")
    message: MIMEBase = MIMEMultipart() if attached else body
    message["From"] = f"{_phrase(sender)} <{sent_from}>"
    message["Subject"] = Header(_one_line(subject), _charset(subject), header_name="Subject").encode()
    message["Date"] = format_datetime(datetime.now(UTC))
    message["Message-ID"] = make_msgid(domain=sent_from.rpartition("@")[2])
    if attached:
        message.attach(body)
    for one in attached:
        part = MIMEApplication(one.pdf, "pdf")
        part.add_header("Content-Disposition", "attachment", filename=one.name)
        message.attach(part)
    # Addresses are written as they are: nothing in them has a meaning to the protocol, and no program encodes them.
    addresses = f"To: {to}\r\n" + (f"Reply-To: {reply_to}\r\n" if reply_to else "")
    return addresses.encode() + message.as_bytes(policy=compat32.clone(linesep="\r\n"))


def recipient(to: str) -> str:
    """The one address that a mail goes to, parsed and normalised. Raises NotSent for anything else."""
    try:
        return people.address(to)
    except people.Unfit:
        raise NotSent("That is no mail address; a letter goes to one.", at_address=True) from None


def _phrase(name: str) -> str:
    """A name as it stands before an address: plain words, or encoded words (RFC 2047), which hold any text."""
    plain = _one_line(name)
    return plain if _WORDS.fullmatch(plain) else Header(plain, "utf-8", header_name="From").encode()


_WORDS = re.compile(r"[A-Za-z0-9]+( [A-Za-z0-9]+){0,8}")


def _charset(text: str) -> str:
    """Plain letters stand as they are, unless a reader would take them for an encoded word."""
    return "us-ascii" if text.isascii() and "=?" not in text else "utf-8"


def _one_line(text: str) -> str:
    """A header's text: what would end a line, and every other control, is a blank."""
    plain = "".join(" " if unicodedata.category(sign) in ("Cc", "Cs", "Zl", "Zp") else sign for sign in text)
    return " ".join(plain.split())
