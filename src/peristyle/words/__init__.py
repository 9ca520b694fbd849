"""Every sentence the program says, as templates over numbers, read in the maker's units and decimal mark."""
