"""What happened to a payer that a person wants to hear of. (docs/method.md, Signals)"""
