"""The dated ledger: what was measured, laid, dug in, removed, fed and observed on plots."""
