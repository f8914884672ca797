"""What was read is kept until something changes, whoever changes it meanwhile."""

from vamper.services.work.remembered import Remembered


def test_what_was_read_is_kept_until_it_is_forgotten() -> None:
    kept, read = Remembered[str, int](), iter(range(9))
    assert [kept.get("force", lambda: next(read)) for _ in range(3)] == [0, 0, 0]
    assert kept.get("mat", lambda: next(read)) == 1
    kept.forget()
    assert kept.get("force", lambda: next(read)) == 2


def test_a_change_while_it_is_read_leaves_nothing_old_behind() -> None:
    """A force was asked for while a drop was judged: the answer was a breakdown, now and then."""
    kept = Remembered[str, str]()

    def read() -> str:
        kept.forget()
        return "before the change"

    assert kept.get("force", read) == "before the change"
    assert kept.get("force", lambda: "after it") == "after it"
