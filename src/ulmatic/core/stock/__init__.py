"""What came and what lies here: loads, piles and their book."""
