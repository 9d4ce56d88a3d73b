"""The web interface: routes translate, services do."""
