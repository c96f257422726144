#!/usr/bin/env python3
"""Start to first paint of the application against a Qt window with a line of text, in turn, and the memory of the demo."""
import os
import statistics
import sys
import tempfile
import time

PROMISED_RATIO, PROMISED_MEMORY = 1.6, 150.0
application, empty = sys.argv[1], sys.argv[2]
os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
runtime = tempfile.TemporaryDirectory()
os.environ.setdefault("XDG_RUNTIME_DIR", runtime.name)


def run(*command):
    start = time.perf_counter()
    child = os.posix_spawn(command[0], command, os.environ)
    _, status, usage = os.wait4(child, 0)
    if status != 0:
        sys.exit(f"{command[0]} ended with {status}")
    return time.perf_counter() - start, usage.ru_maxrss / 1024


pairs, memory = [], []
for i in range(31):
    own, resident = run(application, "--demo", "--exit-after-first-paint")
    other, _ = run(empty)
    if i > 0:
        pairs.append((own, other))
        memory.append(resident)
ratio = statistics.median(a / b for a, b in pairs)
print(f"start to first paint and end: {1e3 * statistics.median(a for a, _ in pairs):.0f} ms, window with a line of text "
      f"{1e3 * statistics.median(b for _, b in pairs):.0f} ms, ratio {ratio:.2f} (promise {PROMISED_RATIO})")
print(f"largest resident memory with the demo open: {statistics.median(memory):.0f} MB (promise {PROMISED_MEMORY:.0f} MB)")
sys.exit(ratio > PROMISED_RATIO or statistics.median(memory) > PROMISED_MEMORY)
