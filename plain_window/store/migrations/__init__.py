"""Numbered migrations: `m0001_….py` and so on, each a list of statements, run once and in order.

MariaDB commits each statement that changes a table by itself, so a migration that fails half-way is run again from
its start: write statements that bear that (`IF NOT EXISTS`).
"""
