"""The bin: what was removed stays there for thirty days and can be put back."""
