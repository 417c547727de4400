"""The return path: what holding the shares to a chosen year would return, and what it comes from.
(docs/method.md, Return path)"""
