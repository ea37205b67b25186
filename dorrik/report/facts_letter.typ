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

#let photos = data.at("photos", default: ())
#if photos.len() > 0 [
  #grid(
    columns: (1fr, 1fr), column-gutter: 6mm, row-gutter: 5mm,
    ..photos.map(p => block(breakable: false)[
      #if p.drawing != "" { image(p.drawing, format: "svg", width: 100%, alt: p.words) }
      #text(size: 8.5pt, fill: quiet, p.caption)
    ]),
  )
]
