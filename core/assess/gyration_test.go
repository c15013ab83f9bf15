package assess
