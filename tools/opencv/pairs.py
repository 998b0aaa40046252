# Pairs of a clip by OpenCV: Shi-Tomasi points, pyramidal Lucas-Kanade, RANSAC similarity; one thread. Prints JSON: shift of the middle in px of the
# frame, turn in rad, and milliseconds a frame without decoding.
import json
import math
import sys
import time

import cv2
import numpy as np

cv2.setNumThreads(1)
cv2.setRNGSeed(7)
capture = cv2.VideoCapture(sys.argv[1])
frames = []
while True:
    ok, image = capture.read()
    if not ok:
        break
    frames.append(cv2.cvtColor(image, cv2.COLOR_BGR2GRAY))
height, width = frames[0].shape
middle = np.array([(width - 1) / 2, (height - 1) / 2])
pairs = []
began = time.perf_counter()
for a, b in zip(frames, frames[1:]):
    points = cv2.goodFeaturesToTrack(a, 144, 0.01, 20, blockSize=9)
    moved, found, _ = cv2.calcOpticalFlowPyrLK(a, b, points, None, winSize=(19, 19), maxLevel=3)
    kept = found.ravel() == 1
    matrix, _ = cv2.estimateAffinePartial2D(points[kept], moved[kept], method=cv2.RANSAC, ransacReprojThreshold=1)
    shift = matrix[:, :2] @ middle + matrix[:, 2] - middle
    pairs.append([shift[0], shift[1], math.atan2(matrix[1, 0], matrix[0, 0])])
took = (time.perf_counter() - began) / max(1, len(pairs))
print(json.dumps({"width": width, "pairs": pairs, "msPerFrame": 1000 * took}))
