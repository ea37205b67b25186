// A letter of facts: an opening, a table of what is known, what follows from it, and small print of its own.
#import "letter_style.typ": letter, mono, quiet
#let data = json(bytes(sys.inputs.data))

#show: body => letter(data, body)

#data.opening

#table(
  columns: (62mm, 1fr), stroke: none, inset: (x: 0mm, y: 1.3mm),
  table.header(text(size: 8.5pt, fill: quiet)[What], text(size: 8.5pt, fill: quiet, data.at("column", default: "Found"))),
  ..data.facts.map(fact => (text(fill: quiet, fact.label), [#fact.value])).flatten(),
)

#for said in data.body [
  #said
  #parbreak()
]
