"""Files as people have them: spreadsheets, pages and tables of any common sort, and what in them
can be read as facts. Nothing is guessed in silence: what could be read two ways is asked.

reader.py, in a process of its own that apart.py bounds, reads files to cells; encodings.py says how
a text is written; numbers.py and dates.py say how a sheet writes them; headings.py
what its words mean; understand.py puts that together; convert.py makes rows of the product's own
tables of it, which then pass every check of an import.
"""
