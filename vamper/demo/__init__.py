"""The demo workshop: Gannet Reach Paddle Club, a made-up club whose maker cuts stickers, labels and decals."""
