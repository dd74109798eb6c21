#!/usr/bin/env python3
"""Writes the core's sentences as a header that Qt's lupdate reads, each in the context "Core".

    packaging/translations/core_texts.py > build/core_texts.h
    lupdate src build/core_texts.h -ts packaging/translations/cinnabar_LANGUAGE.ts
    lrelease packaging/translations/cinnabar_LANGUAGE.ts
"""
import pathlib
import re

root = pathlib.Path(__file__).resolve().parents[2]
calls = re.compile(r'\b(?:said|in_words|counted)\(\s*(?:[^",()]*,\s*)?((?:"(?:[^"\\]|\\.)*"\s*)+)'
                   r'|\.(?:title|brief|source|why)\s*=\s*((?:"(?:[^"\\]|\\.)*"\s*)+)')
texts = set()
for source in sorted((root / "src/core").rglob("*.cpp")):
    for found in calls.finditer(source.read_text()):
        literal = found.group(1) or found.group(2)
        texts.add("".join(re.findall(r'"((?:[^"\\]|\\.)*)"', literal)))
for text in sorted(texts):
    print(f'QT_TRANSLATE_NOOP("Core", "{text}")')
