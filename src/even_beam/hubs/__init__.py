"""Where benches share what they have read: a folder, or a PostgreSQL server."""

from even_beam.hubs.hub import Fetched, Hub, HubError, News, UnreachableError, hub_at, kept_address

__all__ = ["Fetched", "Hub", "HubError", "News", "UnreachableError", "hub_at", "kept_address"]
