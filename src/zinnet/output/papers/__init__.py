"""What is printed: paper templates; later job sheets and tags."""
