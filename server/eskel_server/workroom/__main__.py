"""Serve a workroom: `python -m eskel_server.workroom`; its socket and key are named in the environment."""

import os

from .door import serve

if __name__ == "__main__":
    serve(os.environ["ESKEL_ROOM"], os.environ["ESKEL_ROOM_KEY"].encode())
