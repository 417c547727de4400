"""Lists of what a person owns: trades, dividends received, positions, cash journals. Their rows
become entries of the ledger.

forms.py says which lists they are, words.py what people call the kinds of entries; settle.py asks
what they do not say, whose.py says whose rows are; told.py reads them, signs.py which way their
cash goes, joined.py what several tell together, sums.py what they came to; entries.py makes entries
of them, positions.py of what is held.
"""
