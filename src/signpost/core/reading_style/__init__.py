"""The reading style: rules for how contents and links back are shown."""
