"""Diffs that the standard `patch` applies."""

import subprocess

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from signpost.core.text.diffs import FileDiff, unified_diff

CASES = [
    pytest.param(b"a\nb\nc\n", b"a\nB\nc\n", id="one line"),
    pytest.param(b"a\nb", b"a\nc", id="no final newline"),
    pytest.param(b"a\n", b"a", id="the final newline goes"),
    pytest.param(b"a\r\nb\r\n", b"a\r\nx\r\nb\r\n", id="CRLF"),
    pytest.param(b"a\rb\rc", b"a\rB\rc", id="lone CR"),
    pytest.param("ä\n€\n".encode("cp1252"), "ö\n€\n".encode("cp1252"), id="windows-1252"),
    pytest.param(
        b"".join(b"%d\n" % i for i in range(50)), b"".join(b"%d\n" % (i % 25) for i in range(50)), id="long"
    ),
    pytest.param(None, b"new\nfile\n", id="a new file"),
]


def patched(tmp_path, before, after, name="my page.html"):
    if before is not None:
        (tmp_path / name).write_bytes(before)
    diff = unified_diff([FileDiff(name, before, after)])
    subprocess.run(["patch", "-p1", "--binary"], input=diff, cwd=tmp_path, check=True, capture_output=True)
    return (tmp_path / name).read_bytes()


@pytest.mark.parametrize(("before", "after"), CASES)
def test_patch_applies_the_diff(tmp_path, before, after):
    assert patched(tmp_path, before, after) == after


@settings(max_examples=40)
@given(
    st.lists(st.sampled_from([b"a", b"b", b"c", b""]), max_size=30),
    st.lists(st.sampled_from([b"a", b"b", b"d"]), max_size=30),
)
def test_patch_applies_any_diff(tmp_path_factory, before, after):
    old, new = b"\n".join(before), b"\n".join(after)
    if old and new:
        assert patched(tmp_path_factory.mktemp("patch"), old, new) == new


def test_equal_files_give_nothing():
    assert unified_diff([FileDiff("a", b"x", b"x")]) == b""
