"""Drafts in files: as long as somebody looks at them, and no longer."""

import os
import time

from dorrik.store.database.engine import new_id
from dorrik.store.files.drafts import LASTS_S, Drafts

PERSON = new_id()


def kept(drafts, inspection, person=PERSON):
    with drafts.workplace() as folder:
        (folder / "pages").mkdir()
        (folder / "pages" / "1.svg.gz").write_bytes(b"page")
        draft = drafts.keep(inspection, person, folder / "pages")
    (kept,) = drafts._root.glob(f"{inspection}/*.{draft}")
    return draft, kept


def test_what_is_too_old_goes_whoever_made_it(tmp_path):
    drafts = Drafts(tmp_path)
    old, folder = kept(drafts, inspection := new_id())
    fresh, _ = kept(drafts, other := new_id())
    past = time.time() - LASTS_S - 1
    os.utime(folder, (past, past))
    # As another process does it, after one that was killed.
    Drafts(tmp_path).sweep()
    assert drafts.page(inspection, PERSON, old, 1) is None
    assert drafts.page(other, PERSON, fresh, 1) == b"page"
    assert not (tmp_path / inspection).exists()


def test_what_a_process_left_behind_in_the_middle_of_its_work_goes(tmp_path):
    drafts = Drafts(tmp_path)
    with drafts.workplace() as folder:
        (folder / "photo.jpg").write_bytes(b"x")
        past = time.time() - LASTS_S - 1
        os.utime(folder, (past, past))
        drafts.sweep()
        assert not folder.exists()
    with drafts.workplace() as folder:
        (folder / "photo.jpg").write_bytes(b"x")
        drafts.sweep()
        assert (folder / "photo.jpg").exists()
    assert not folder.exists()


def test_an_erased_inspection_has_no_draft_of_anybody(tmp_path):
    drafts = Drafts(tmp_path)
    inspection, other = new_id(), new_id()
    gone = [kept(drafts, inspection, person) for person in (PERSON, new_id())]
    stays, _ = kept(drafts, other)
    drafts.forget([inspection])
    assert not any(folder.exists() for _, folder in gone)
    assert drafts.page(other, PERSON, stays, 1) == b"page"


def test_nobody_else_on_the_machine_reads_them(tmp_path):
    _, folder = kept(Drafts(tmp_path / "root"), new_id())
    assert folder.parent.stat().st_mode & 0o077 == 0
