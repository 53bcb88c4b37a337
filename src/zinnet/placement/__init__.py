"""Where artwork goes on a blank: guides, proposals and the placement itself."""
