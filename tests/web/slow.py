"""What takes longer than anybody waits, for a process of its own."""

import time


def sleeps(_name: str, _body: bytes) -> tuple[int, str]:
    """Answers after a minute."""
    time.sleep(60)
    return 200, "{}"
