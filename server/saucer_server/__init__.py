"""The server: rules about people, keeping and sharing. It asks the core for every colour."""
