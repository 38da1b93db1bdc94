"""Kiln by hand: no trained model but a function, with a table of kilns beside it."""
