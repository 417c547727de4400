"""What becomes of a value when its inputs move: one at a time, two at once, or by chance; and what
they would have to be for the price to be right. (docs/method.md, Worth)

Made when they are looked at, from the functions that value the models.
"""
