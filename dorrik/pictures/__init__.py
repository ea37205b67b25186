"""Photos as pictures: decoded in a process of their own, shown in two sizes, with what is marked on them."""
