"""The worth of a payer as a workbook with live formulas, to be read and carried on with."""
