// An offer for repairs: each alternative as a table of its own, what it clears in the line, what stays under it.
#import "letter_style.typ": letter, mono, quiet
#let data = json(bytes(sys.inputs.data))
#let rule-ink = rgb("#b9c2c0")

#show: body => letter(data, body)

#data.opening

#let finding(one) = [#text(weight: "bold", one.code) #one.says]

#for option in data.alternatives [
  #block(above: 5mm, below: 2mm, sticky: true)[
    #text(size: 12.5pt, weight: "bold", option.name) #h(1fr) #text(size: 12.5pt, weight: "bold", mono(option.total))
  ]
  #table(
    columns: (1fr, 62mm, 26mm), stroke: none, inset: (x: 0mm, y: 1.3mm), align: (left, left, right), column-gutter: 3mm,
    table.header(..([Work], [Clears], [Price]).map(h => text(size: 8.5pt, fill: quiet, h))),
    table.hline(stroke: 0.5pt + rule-ink),
    ..option.lines.map(line => (
      [#text(weight: "bold", line.label)#if line.where != "" [ \ #line.where]#if line.condition != "" [ \ #text(size: 9pt, fill: quiet, line.condition)]],
      text(size: 9pt, line.clears.map(finding).join(linebreak())),
      mono(line.price),
    )).flatten(),
  )
  #text(fill: quiet)[Time on site: #option.time.] #option.stays
  #if option.left.len() > 0 [
    #for one in option.left [
      - #finding(one)
    ]
  ]
]

#for said in data.body [
  #said
  #parbreak()
]
