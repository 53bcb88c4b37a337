"""The steps by which an older workshop file becomes a newer one."""
