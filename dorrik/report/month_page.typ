// A landlord's page of a month: what was done, what is open at each home, what presses first.
#import "condition/style.typ": ink, mono, others, quiet, rule-ink, small
#import "long_words.typ": broken, long-word
#let data = json(bytes(sys.inputs.data))

#set document(title: data.client + ", " + data.title, author: data.firm, description: "Electrical inspections, " + data.title)
#set text(font: ("Atkinson Hyperlegible Next", ..others), size: 10pt, fill: ink, lang: "en", region: "GB")
#set par(leading: 0.58em, spacing: 0.9em)
#show long-word: broken
#set page(
  paper: "a4", margin: (x: 18mm, top: 18mm, bottom: 20mm),
  footer: small[#data.firm · as of #data.on #h(1fr) #context [Page #counter(page).display() of #counter(page).final().first()]],
)
#show heading.where(level: 1): it => block(above: 0pt, below: 3mm, text(size: 20pt, weight: "bold", it.body))
#show heading.where(level: 2): it => block(above: 6mm, below: 2mm, sticky: true, text(size: 12.5pt, weight: "bold", it.body))

= Your homes, #data.title

#text(size: 12pt, weight: "bold", data.client) \
#data.count #if data.count == 1 [home] else [homes]: #data.open.len() with something open#if data.late > 0 [, #data.late late], #data.rest in order.

#let list(columns, heads, rows) = table(
  columns: columns, inset: (x: 1.5mm, y: 1.8mm), stroke: (x, y) => (bottom: 0.5pt + rule-ink),
  table.header(..heads.map(h => text(size: 8.5pt, fill: quiet, h))),
  ..rows.flatten(),
)

#if data.open.len() > 0 [
  == What is open
  #list((1fr, 34mm, 30mm, 38mm), ([Home], [State], [By], [Next step]), data.open.map(one => (
    [*#one.home*#if one.reference != "" [ \ #small(one.reference)]],
    [#one.state#if one.late [, *late*]#if one.also.len() > 0 [ \ #small[also #one.also.join("; ")]]],
    [#one.on],
    [#one.next#if one.holder != "" [ \ #small(one.holder)]],
  )))
]

#if data.done.len() > 0 [
  == Inspected this month
  #list((1fr, 34mm, 44mm), ([Home], [Day], [Result]), data.done.map(one => ([*#one.home*], [#one.on], [#one.result])))
]

#if data.open.len() == 0 and data.done.len() == 0 [Nothing is open, and nothing was inspected this month.]

#v(4mm)
#small[#data.firm#if data.contact != "" [, #data.contact]. Check the law that applies where each property stands.]
