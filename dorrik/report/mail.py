"""Mail: letters with their PDF attached, handed to a server over SMTP (RFC 5321).

DORRIK_SMTP names the installation's server (host:port), DORRIK_MAIL_FROM the sender's address. Where DORRIK_SMTP_USER
is set, the connection is encrypted before user and DORRIK_SMTP_PASSWORD are given. A firm can have a server of its own.
"""

import ipaddress
import re
import smtplib
import socket
import ssl
import unicodedata
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from email.header import Header
from email.mime.application import MIMEApplication
from email.mime.base import MIMEBase
from email.mime.multipart import MIMEMultipart
from email.mime.text import MIMEText
from email.policy import compat32
from email.utils import format_datetime, make_msgid
from typing import Literal

from dorrik.settings import settings
from dorrik.store.people import people

#: How long a server may take to answer (s).
PATIENCE_S = 15


class NotSent(Exception):
    """The mail did not leave; the message says why. `at_address`: the address itself is wrong; `for_good`: the same
    mail would be refused again."""

    def __init__(self, why: str, *, at_address: bool = False, for_good: bool = False) -> None:
        super().__init__(why)
        self.at_address = at_address
        self.for_good = for_good or at_address


@dataclass(frozen=True, slots=True)
class Attachment:
    """A file that goes with a mail."""

    name: str
    pdf: bytes


#: How the connection is encrypted: from the start, by STARTTLS, or not at all.
Security = Literal["tls", "starttls", "none"]
NO_SERVER = "No mail server is set up here: print the letter instead."


@dataclass(frozen=True, slots=True)
class Server:
    """A mail server. sender: the address that mails come from; public_only: is it a firm's own setting, so that it must
    lie outside this machine's own network?"""

    host: str
    port: int
    security: Security
    user: str
    password: str
    sender: str
    public_only: bool = False


def server() -> Server | None:
    """The installation's mail server (DORRIK_SMTP, such as mail.example:587); None where none is set."""
    given = settings()
    if given.smtp is None:
        return None
    host, _, port = given.smtp.partition(":")
    user = given.smtp_user
    return Server(
        host=host, port=int(port or 25), security="starttls" if user else "none", user=user,
        password=given.smtp_password.get_secret_value(),
        sender=given.mail_from,
    )  # fmt: skip


def send(sender: str, reply_to: str | None, to: str, subject: str, text: str, attached: Sequence[Attachment]) -> None:
    """Send one mail through the installation's server at once. sender: the firm's name; reply_to: who wrote it. Raises
    NotSent."""
    place = server()
    if place is None:
        raise NotSent(NO_SERVER)
    address = recipient(to)
    message = compose(sender, place.sender, reply_to and recipient(reply_to), address, subject, text, attached)
    hand_over(place, address, message)


def hand_over(place: Server, to: str, message: bytes, about_to: Callable[[], None] = lambda: None) -> None:
    """Hand one mail to a server. to: a parsed address; about_to: is called just before the mail itself goes over the
    line; until then it has certainly not left. Raises NotSent."""
    sender = recipient(place.sender)
    try:
        with _connected(place) as smtp:
            smtp.ehlo_or_helo_if_needed()
            if place.security == "starttls":
                smtp.starttls(context=ssl.create_default_context())
                smtp.ehlo()
            if place.user:
                smtp.login(place.user, place.password)
            head, _, _ = message.partition(b"\r\n\r\n")
            options = () if head.isascii() else ("SMTPUTF8",)
            _must(smtp.mail(sender, options), "the sender")
            _must(smtp.rcpt(to), "the address", for_good=True)
            about_to()
            _must(smtp.data(message), "the mail", for_good=True)
    except smtplib.SMTPAuthenticationError:
        raise NotSent("The mail server did not accept user and password.") from None
    except smtplib.SMTPResponseException as error:
        raise NotSent(f"The mail server answered: {_words(error.smtp_error)} ({error.smtp_code}).") from None
    except ssl.SSLError:
        raise NotSent("The connection to the mail server could not be encrypted.") from None
    except (OSError, smtplib.SMTPException) as error:
        raise NotSent(f"The mail server cannot be reached ({type(error).__name__}).") from None


def _must(answer: tuple[int, bytes], what: str, *, for_good: bool = False) -> None:
    code, reply = answer
    if code // 100 != 2:
        raise NotSent(f"The mail server refused {what}: {_words(reply)} ({code}).", for_good=for_good and code >= 500)


def _words(reply: bytes | str) -> str:
    text = reply.decode("utf-8", "replace") if isinstance(reply, bytes) else reply
    return _one_line(text)[:160]


class _SMTP(smtplib.SMTP):
    """One that connects to an address that was looked up and found fit, under the name that its certificate bears."""

    def __init__(self, place: Server, address: str) -> None:
        self.address = address
        super().__init__(place.host, place.port, timeout=PATIENCE_S)

    def _get_socket(self, host: str, port: int, timeout: float) -> socket.socket:
        return socket.create_connection((self.address or host, port), timeout)


class _EncryptedSMTP(smtplib.SMTP_SSL):
    def __init__(self, place: Server, address: str) -> None:
        self.address = address
        super().__init__(place.host, place.port, timeout=PATIENCE_S, context=ssl.create_default_context())

    def _get_socket(self, host: str, port: int, timeout: float) -> socket.socket:
        plain = socket.create_connection((self.address or host, port), timeout)
        return self.context.wrap_socket(plain, server_hostname=host)


def _connected(place: Server) -> smtplib.SMTP:
    address = _public(place.host, place.port) if place.public_only else ""
    return _EncryptedSMTP(place, address) if place.security == "tls" else _SMTP(place, address)


def _public(host: str, port: int) -> str:
    """The address of a host, where every one that it has lies in the public network. Raises NotSent: a firm's setting
    must not reach into the network that the server stands in."""
    try:
        addresses = {str(entry[4][0]) for entry in socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)}
    except OSError:
        raise NotSent("There is no mail server of that name.") from None
    if not addresses or not all(ipaddress.ip_address(address.partition("%")[0]).is_global for address in addresses):
        raise NotSent("That mail server lies in a private network. Whoever runs this installation can set it up.")
    return sorted(addresses)[0]


def message_id(sender: str) -> str:
    """A new identity for a mail, by which a bounce names it."""
    return make_msgid(domain=sender.rpartition("@")[2])


def compose(
    sender: str, sent_from: str, reply_to: str | None, to: str, subject: str, text: str,
    attached: Sequence[Attachment], identity: str | None = None,
) -> bytes:  # fmt: skip
    """A mail as it goes over the line (RFC 5322). The addresses have gone through `recipient`; identity: its
    Message-ID, a new one where none is given.

    The library's newer interface reads a header's text as the protocol before it writes it: an encoded word in a name
    became lines of the head, a long quoted name lost its quotes where it was folded. Here each text is put into the
    protocol's form once (RFC 2047) and written as it is.
    """
    body = MIMEText(text, "plain", "utf-8")
    message: MIMEBase = MIMEMultipart() if attached else body
    message["From"] = f"{_phrase(sender)} <{sent_from}>"
    message["Subject"] = Header(_one_line(subject), _charset(subject), header_name="Subject").encode()
    message["Date"] = format_datetime(datetime.now(UTC))
    message["Message-ID"] = identity or message_id(sent_from)
    if attached:
        message.attach(body)
    for attachment in attached:
        part = MIMEApplication(attachment.pdf, "pdf")
        part.add_header("Content-Disposition", "attachment", filename=attachment.name)
        message.attach(part)
    # Addresses are written as they are: nothing in them has a meaning to the protocol, and no program encodes them.
    addresses = f"To: {to}\r\n" + (f"Reply-To: {reply_to}\r\n" if reply_to else "")
    return addresses.encode() + message.as_bytes(policy=compat32.clone(linesep="\r\n"))


def recipient(to: str) -> str:
    """The one address that a mail goes to, parsed and normalised. Raises NotSent for anything else."""
    try:
        return people.address(to)
    except people.Unfit:
        raise NotSent("Enter an email address, such as ann@example.com.", at_address=True) from None


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
