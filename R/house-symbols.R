# Symbols in the order they are given to levels: neighbours differ in outline and
# in filling, so that they are told apart at 1.5 mm.
symbol_names <- c("disc", "triangle", "ring", "square", "wedge", "diamond", "open square", "open triangle")
