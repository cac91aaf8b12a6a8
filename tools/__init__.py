"""What makes parts of the project and is no part of the product: the demos (`demo`), the pictures in the documents (`shots`)."""
