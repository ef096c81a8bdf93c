"""Bytes to values and back. Opening a file is somebody else's business."""
