"""Sixty broken files of every format; `make bench` takes two thousand."""

from tests.bench.fuzz import LONGEST_S, MOST_MB, in_a_process


def test_broken_files_are_read_or_refused_with_a_sentence() -> None:
    seen = in_a_process(60, seed=3)
    assert not seen.wrong, seen.first_wrong
    assert seen.read + seen.refused == 60
    assert seen.refused > 10
    assert seen.slowest_s < LONGEST_S
    assert seen.peak_mb < MOST_MB
