"""Debian's Chromium as tests, benchmarks and screenshots drive it."""

import shutil

#: What Playwright switches off by itself: a list of ours takes the place of its own.
_SWITCHED_OFF = (
    "AvoidUnnecessaryBeforeUnloadCheckSync", "DestroyProfileOnBrowserClose", "HttpsUpgrades",
    "HttpsFirstBalancedModeAutoEnable", "LensOverlay", "MediaRouter", "PaintHolding", "ThirdPartyStoragePartitioning",
    "AvoidCorsURLLoaderRestartOnRedirect", "OptimizationHints", "NetworkTimeServiceQuerying", "AimEnabled",
    "PreconnectToSearch",
)  # fmt: skip
#: Each window draws an address bar's list in a process of its own, which nobody here sees.
_UNSEEN = ("WebUIOmniboxPopup", "WebUIOmniboxFullPopup", "WebUIOmniboxAimPopup")

#: Chromium as root needs the first; the others keep it from asking for hosts that cannot be reached.
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    f"--disable-features={','.join(_SWITCHED_OFF + _UNSEEN)}",
]


def executable() -> str:
    """Where Debian put the browser that users have: for what is measured and pictured."""
    return _found("chromium")


def without_windows() -> str:
    """Where Debian put the same browser without its windows, which nobody sees in a test: an eighth less to compute."""
    return _found("chromium-headless-shell")


def _found(name: str) -> str:
    path = shutil.which(name)
    assert path, f"Chromium is not installed: apt-get install {name}"
    return path
