"""Stand-ins for instruments, on real wires: a room with lamps that listen to E1.31, and meters that answer."""
