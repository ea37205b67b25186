"""Coroutines run to their end from a test."""

import asyncio
from collections.abc import Coroutine
from concurrent.futures import ThreadPoolExecutor
from typing import Any, TypeVar

T = TypeVar("T")


def run(coroutine: Coroutine[Any, Any, T]) -> T:
    """The result of a coroutine, from a loop in a thread of its own: once a worker drives a browser, its own thread has
    a loop for as long as it lives."""
    with ThreadPoolExecutor(1) as thread:
        return thread.submit(asyncio.run, coroutine).result()
