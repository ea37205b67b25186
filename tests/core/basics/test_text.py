"""What a person may write goes in; what only a machine sends does not."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.basics.text import shown, tidy, why_not
from dorrik.core.inspection.field_spec import FieldError
from dorrik.core.inspection.kinds import KINDS

NAME = KINDS["inspection"].fields["client_name"]


@pytest.mark.parametrize(
    "name",
    [
        "王小明", "Ольга", "Ελένη", "محمد", "משה", "नेहा", "สมชาย", "ሰላም", "김철수", "Siân O’Neill-Müller", "Ṯãñ",
        "Café ☕", "👩🏽‍🔧", "🏴󠁧󠁢󠁷󠁬󠁳󠁿", "क्‍ष", "می‌خواهم", "1️⃣", "𠮷野家",
    ],
)  # fmt: skip
def test_names_of_the_world_are_kept_to_the_letter(name):
    assert NAME.clean(f"  {name} ") == name


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("a\x00b", "U\\+0000"),
        ("a\x1bb", "Character 2 .*control"),
        ("a\x7f", "U\\+007F"),
        ("a\x85", "U\\+0085"),
        ("\ue000", "private use"),
        ("\U0010fffd", "private use"),
        ("\ud83d", "half"),
        ("\ufdd0", "cannot be kept"),
        ("\U0001ffff", "cannot be kept"),
        ("invoice\u202egpj.exe", "U\\+202E"),
    ],
)
def test_what_is_refused_is_named_with_its_place(text, told):
    with pytest.raises(FieldError, match=told):
        NAME.clean(text)
    assert why_not(shown(text)) is None


def test_one_letter_written_in_two_ways_is_one_text_and_line_ends_are_one_sign():
    assert tidy("Cafe\u0301\r\nsecond\rthird") == "Café\nsecond\nthird"


@given(st.text(max_size=60))
def test_any_text_is_kept_as_it_stands_or_refused(text):
    try:
        kept = tidy(text)
    except ValueError:
        assert why_not(text.replace("\r", "\n")) is not None
    else:
        kept.encode()
        assert tidy(kept) == kept
