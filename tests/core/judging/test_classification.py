import pytest

from dorrik.core.judging.result import classification


def test_three_views_with_reasons():
    main, strict, mild = classification.views("rcd-missing-outdoor")
    assert (main.code, strict.code, mild.code) == ("C2", "C2", "C3")
    assert all(view.reason for view in (main, strict, mild))
    assert classification.suggest("combustible-enclosure", "stricter").code == "C2"
    with pytest.raises(KeyError):
        classification.views("nothing")


def test_agreement_beyond_chance():
    # 20 yes/yes, 15 no/no, 5 and 10 apart: share 0.70, chance 0.5, kappa 0.4.
    pairs = [("C2", "C2")] * 20 + [("C3", "C3")] * 15 + [("C2", "C3")] * 5 + [("C3", "C2")] * 10
    found = classification.agreement(pairs)
    assert (found.pairs, found.share) == (50, 0.7)
    assert found.kappa == pytest.approx(0.4)
    assert classification.agreement([("C2", "C2")] * 4).kappa is None
    assert classification.agreement([]) is None
