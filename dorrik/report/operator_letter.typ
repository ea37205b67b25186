// To the network operator: its earth was measured and is not what it usually declares.
#import "letter_style.typ": letter, mono, quiet
#let data = json(bytes(sys.inputs.data))

#show: body => letter(data, body)

#data.opening

#table(
  columns: (62mm, 1fr), stroke: none, inset: (x: 0mm, y: 1.3mm),
  table.header(text(size: 8.5pt, fill: quiet)[What], text(size: 8.5pt, fill: quiet)[Found]),
  ..data.facts.map(fact => (text(fill: quiet, fact.label), [#fact.value])).flatten(),
)

#for said in data.body [
  #said
  #parbreak()
]
