"""What browser tests ask of a server beside the browser."""

import httpx

# Each asking is a connection of its own, and since nothing is encrypted no certificates are read for it.
ASKED = httpx.Client(verify=False, timeout=60, limits=httpx.Limits(max_keepalive_connections=0))
