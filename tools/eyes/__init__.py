"""Made faces with eyes whose place and size are known, and the weights by which eyes are found, learned from them."""
