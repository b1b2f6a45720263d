"""Pages in a browser: what the frame they are shown in may do, and Chromium to measure them without a window."""
