"""XGBoost: its JSON and UBJSON files, asked (`adapter`) and compiled (`compiling`)."""
