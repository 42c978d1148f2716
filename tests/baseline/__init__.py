"""What a tree of the project answers to the same archives, so that two trees can be held against each other."""
