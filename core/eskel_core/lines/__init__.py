"""Lines: a part said in one line, as a smith says it, and read back to a part.

Concepts: a *line* (`2 × wire 21 ga 35 long half-hard "Post"`), what it was *understood* as (each stretch with its words),
what was *taken* from the part before (metal, thickness) and says so, and the *refusal* of a word that is not known, with
the stretch of the line and the nearest word that is. `line_of` writes the line of a part, which reads back the same.

>>> read_line("disc 14 × 0.5 fine, domed 4").part.form.outline.diameter_mm
14.0
"""

from ._line import Understood
from ._read import LineRead, read_line
from ._write import line_of

__all__ = ["LineRead", "Understood", "line_of", "read_line"]
