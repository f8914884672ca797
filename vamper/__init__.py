"""Vamper: planner, calculator, simulator and logbook for people who make stickers and decals at home."""

import os

# Its pictures are small and many: OpenCV's threads cost more in waiting for each other than they bring (a dry run took
# twice as long). Said here, since it is read when OpenCV comes in for the first time.
os.environ.setdefault("OPENCV_FOR_THREADS_NUM", "1")
# Its matrices are small, too: a product that takes 0.05 ms took a hundred now and then where two threads shared it.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
