// A word without a blank of more letters than any language's has places to be broken at: the longest name stays in its
// cell. Nothing is put between its letters that somebody who copies it would get.
#let long-word = regex("[^\\s]{24,}")
#let broken(it) = it.text.clusters().chunks(8).map(part => part.join()).join(box(width: 0pt))
