// Nothing of its own: the library that compiles the headers all tests share.
