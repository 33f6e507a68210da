"""Beginning a piece over HTTP: from a start, by lines, by pointing. It keeps nothing of its own: what is made is an ordinary piece."""
