#!/usr/bin/env python3
"""A yardstick for speed: one raw file to a corrected JPEG with native open libraries, as a studio would script it.

  native-chain.py FILE.dng OUT.jpg        seconds of the whole chain, and of a float remap of ready maps on one thread

LibRaw (AHD demosaicing, 16-bit TIFF), an OpenCV bicubic remap for a rotation and one radial term, JPEG at quality 92.
Needs Debian's libraw-bin and python3-opencv; run with /usr/bin/python3. npm run bench runs it where they are."""
import os, subprocess, sys, tempfile, time
import cv2, numpy as np

raw, out = sys.argv[1:3]
t = [time.time()]
with tempfile.TemporaryDirectory() as d:
    link = os.path.join(d, 'f.dng'); os.symlink(os.path.abspath(raw), link)
    subprocess.run(['dcraw_emu', '-q', '3', '-T', '-6', '-o', '1', link], check=True, stdout=subprocess.DEVNULL)
    picture = cv2.imread(link + '.tiff', cv2.IMREAD_UNCHANGED)
t.append(time.time())
h, w = picture.shape[:2]
half = np.float32(np.hypot(w, h) / 2)
f = np.float32(24 / 21.633 * half)
roll, pitch = np.radians(1.2), np.radians(9)
rx = np.array([[1, 0, 0], [0, np.cos(pitch), -np.sin(pitch)], [0, np.sin(pitch), np.cos(pitch)]])
rz = np.array([[np.cos(roll), -np.sin(roll), 0], [np.sin(roll), np.cos(roll), 0], [0, 0, 1]])
k = np.array([[f, 0, w / 2], [0, f, h / 2], [0, 0, 1]])
m = (k @ rx @ rz @ np.linalg.inv(k)).astype(np.float32)
x, y = np.meshgrid(np.arange(w, dtype=np.float32), np.arange(h, dtype=np.float32))
z = m[2, 0] * x + m[2, 1] * y + m[2, 2]
u = (m[0, 0] * x + m[0, 1] * y + m[0, 2]) / z - w / 2
v = (m[1, 0] * x + m[1, 1] * y + m[1, 2]) / z - h / 2
s = 1 - np.float32(0.02) * (u * u + v * v) / (half * half)
true = cv2.remap(picture, u * s + w / 2, v * s + h / 2, cv2.INTER_CUBIC)
t.append(time.time())
cv2.imwrite(out, (true >> 8).astype(np.uint8), [cv2.IMWRITE_JPEG_QUALITY, 92])
t.append(time.time())
cv2.setNumThreads(1)
floats = picture.astype(np.float32)
mapx, mapy = u * s + w / 2, v * s + h / 2
begin = time.time()
cv2.remap(floats, mapx, mapy, cv2.INTER_CUBIC)
print('{"develop": %.3f, "geometry": %.3f, "encode": %.3f, "whole": %.3f, "remap": %.3f}' % (*np.diff(t), t[-1] - t[0], time.time() - begin))
