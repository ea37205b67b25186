"""The demo's inbox: mails that its own mail server has taken. There is none outside the demo."""

from email import message_from_bytes
from email.message import EmailMessage
from email.policy import default
from pathlib import Path as Folder

from fastapi import Path, Request, Response

from dorrik.api.files import download
from dorrik.api.mail_types import CaughtOut
from dorrik.api.problems import RESPONSES, not_found
from dorrik.api.routing import router as make_router
from dorrik.settings import settings

router = make_router("/api/demo/inbox", "demo", RESPONSES)
_ID = Path(pattern="^[0-9a-f-]{36}$")
#: Mails that are shown, the latest first.
MOST = 100


def _folder() -> Folder:
    place = settings().inbox
    if place is None:
        raise not_found("inbox")
    return place


@router.get("")
def inbox(request: Request) -> list[CaughtOut]:
    """The mails that were taken last."""
    paths = sorted(_folder().glob("*.eml"), reverse=True)[:MOST]
    return [_shown(path) for path in paths]


@router.get("/{mail_id}/{number}", response_class=Response)
def file(request: Request, mail_id: str = _ID, number: int = Path(ge=0, le=99)) -> Response:
    """A file that came with a mail."""
    path = _folder() / f"{mail_id}.eml"
    if not path.is_file():
        raise not_found("mail")
    attached = list(_read(path).iter_attachments())
    if number >= len(attached):
        raise not_found("file")
    part = attached[number]
    return download(part.get_content(), part.get_filename() or "file", part.get_content_type())


def _read(path: Folder) -> EmailMessage:
    message: EmailMessage = message_from_bytes(path.read_bytes(), policy=default)
    return message


def _shown(path: Folder) -> CaughtOut:
    message = _read(path)
    body = message.get_body(("plain",))
    date = message["Date"]
    return CaughtOut(
        id=path.stem,
        at=date.datetime,
        sender=str(message["From"]),
        to=str(message["To"]),
        subject=str(message["Subject"]),
        text=body.get_content() if body is not None else "",
        files=[part.get_filename() or "file" for part in message.iter_attachments()],
    )
