"""LightGBM: its text files, asked (`adapter`) and compiled (`compiling`)."""
