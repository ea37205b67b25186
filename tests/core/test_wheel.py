"""The wheel of the rules alone: judged from it in an interpreter that has nothing else."""

import json
import subprocess
import sys
import zipfile
from pathlib import Path

ROOT = Path(__file__).parents[2]

#: Judges from the unpacked wheel; says what came with it that is neither of Python's own nor of the rules.
SCRIPT = """
import json, sys
before = set(sys.modules)
sys.path.insert(0, sys.argv[1])
from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
circuit = {"id": "c", "way": "1", "designation": "Shower", "form": "radial", "zs_ohm": "1.60",
           "device_standard": "BS EN 60898", "device_type": "B", "device_rating_a": 40}
home = {"id": "i", "earthing": "TN-S", "boards": [{"id": "b", "circuits": [circuit]}]}
judgement = judge(parse({"format": "dorrik-inspection", "version": 1, "inspection": home}))
(zs,) = [n.verdict for n in judgement.notes if n.field == "zs_ohm"]
names = {name.partition(".")[0] for name in set(sys.modules) - before}
foreign = sorted(names - set(sys.stdlib_module_names) - {"dorrik"})
above = sorted(n for n in sys.modules if n.startswith("dorrik.") and not n.startswith("dorrik.core"))
print(json.dumps({"status": zs.status, "limit": zs.limit, "foreign": foreign, "above": above}))
"""


def test_the_wheel_judges_on_its_own(tmp_path: Path):
    uv = Path(sys.executable).with_name("uv")
    build = [uv, "build", "--wheel", "--offline", "--no-build-isolation", "--python", sys.executable, "--out-dir"]
    subprocess.run([*map(str, build), str(tmp_path), str(ROOT)], check=True, capture_output=True)
    (wheel,) = tmp_path.glob("dorrik_core-*.whl")
    with zipfile.ZipFile(wheel) as packed:
        names = packed.namelist()
        packed.extractall(tmp_path / "site")
    assert all(name.startswith(("dorrik/core/", "dorrik_core-")) for name in names)
    assert not [name for name in names if name.endswith(".pyc")]
    # Isolated, without site packages: neither this checkout nor anything installed is in reach.
    command = [sys.executable, "-I", "-S", "-c", SCRIPT, str(tmp_path / "site")]
    said = json.loads(subprocess.run(command, check=True, capture_output=True, cwd=tmp_path).stdout)
    # A 40 A type B breaker asks for 230 × 0.95 / (5 × 40) = 1.09 Ω (BS 7671 table 41.3); 1.60 Ω is above it.
    assert said["status"] == "fail"
    assert abs(said["limit"] - 1.09) < 0.01
    assert said["foreign"] == said["above"] == []
