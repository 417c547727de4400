"""Zips each example folder beside itself, the same bytes every time."""

import zipfile
from pathlib import Path

HERE = Path(__file__).parent
FIRST_DAY = (1980, 1, 1, 0, 0, 0)


def zip_folder(folder: Path, to: Path) -> None:
    with zipfile.ZipFile(to, "w", zipfile.ZIP_DEFLATED) as archive:
        for file in sorted(folder.iterdir()):
            entry = zipfile.ZipInfo(file.name, FIRST_DAY)
            entry.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(entry, file.read_bytes())


if __name__ == "__main__":
    for folder in sorted(p for p in HERE.iterdir() if p.is_dir()):
        zip_folder(folder, folder.with_suffix(".zip"))
