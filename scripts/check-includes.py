#!/usr/bin/env python3
"""Which stage of the core may use which: what src/core/CMakeLists.txt links is what its files may include, directly or
through what those link. The order of the stages there is the one that docs/architecture.md shows."""
import pathlib, re, sys

ROOT = pathlib.Path(__file__).resolve().parent.parent
text = (ROOT / "src/core/CMakeLists.txt").read_text()
links = {m[1]: set(re.findall(r"prism_(\w+)", m[2])) for m in re.finditer(r"prism_stage\((\w+) LINK ([^)]*)\)", text)}
stages = list(links)
links = {stage: used & set(stages) for stage, used in links.items()}
wrong = []


def reachable(stage):
    seen, open_ = set(), [stage]
    while open_:
        for used in links[open_.pop()]:
            if used not in seen:
                seen.add(used)
                open_.append(used)
    return seen | {stage}


for i, stage in enumerate(stages):
    for used in links[stage]:
        if stages.index(used) >= i:
            wrong.append(f"src/core/CMakeLists.txt: {stage} links {used}, which stands below it")
    may = reachable(stage)
    for path in sorted((ROOT / "src/core" / stage).glob("*")):
        for number, line in enumerate(path.read_text().splitlines(), 1):
            m = re.match(r'#include "core/(\w+)/', line)
            if m and m[1] not in may:
                wrong.append(f"{path.relative_to(ROOT)}:{number}: {stage} may not use {m[1]}")
page = (ROOT / "docs/architecture.md").read_text()
shown = [w for w in re.findall(r"^  (\w+)/ ", page, re.M) if w in links]
if shown != stages:
    wrong.append(f"docs/architecture.md shows the stages as {', '.join(shown)}; they are {', '.join(stages)}")
for folder in (ROOT / "src/core").iterdir():
    if folder.is_dir() and folder.name not in links:
        wrong.append(f"{folder.relative_to(ROOT)}: is no stage of src/core/CMakeLists.txt")
for w in wrong:
    print(w, file=sys.stderr)
sys.exit(bool(wrong))
