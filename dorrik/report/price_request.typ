// A sheet on which any contractor writes prices: one row an item, room for a figure and for what it covers.
#import "condition/style.typ": code-mark, data, ink, mono, others, quiet, rule-ink, shade, small
#import "long_words.typ": broken, long-word

#set document(title: data.title, author: data.by, description: data.title + ", report " + data.reference)
#set text(font: ("Atkinson Hyperlegible Next", ..others), size: 10pt, fill: ink, lang: "en", region: "GB")
#set par(leading: 0.58em, spacing: 0.9em)
#show long-word: broken
#set page(
  paper: "a4", margin: (x: 18mm, top: 18mm, bottom: 20mm),
  footer: small[#data.reference · #data.rule_book #h(1fr) #context [Page #counter(page).display() of #counter(page).final().first()]],
)
#show heading.where(level: 1): it => block(above: 0pt, below: 3mm, text(size: 20pt, weight: "bold", it.body))
#show heading.where(level: 2): it => block(above: 5mm, below: 2mm, sticky: true, text(size: 12.5pt, weight: "bold", it.body))

= Request for prices

#text(size: 12pt, weight: "bold", data.home) \
#data.report, by #data.by#if data.inspected_on != "" [, inspected on #data.inspected_on]. Please price each item by itself, say what the price covers, and return this sheet. Test after the work and give the certificate of it, with readings.

#let item(one) = (
  align(center + top, pad(top: 0.6mm, code-mark(one.code))),
  [
    *#one.number. #one.title*
    #if one.text != "" [ \ #one.text]
    #if one.where != "" [ \ #small(one.where)]
    #if one.todo != "" [ \ #text(size: 9pt, one.todo)]
    #if one.figures.len() > 0 [ \ #small[Reading: #one.figures.join("; ")]]
  ],
  [],
  [],
)
#let prices(items) = table(
  columns: (15mm, 1fr, 36mm, 26mm), inset: (x: 1.5mm, y: 2.4mm), stroke: (x, y) => (bottom: 0.5pt + rule-ink, left: if x > 1 { 0.5pt + rule-ink }),
  table.header(..([Code], [What was found], [Price covers], [Price]).map(h => text(size: 8.5pt, fill: quiet, h))),
  ..items.map(item).flatten(),
)
#let required = data.items.filter(one => one.counts)
#let advised = data.items.filter(one => not one.counts)

#if required.len() > 0 [
  == To be put right or looked into
  #prices(required)
]
#if advised.len() > 0 [
  == Recommended, not required
  #prices(advised)
]
#if data.items.len() == 0 [Nothing is left to be put right.]

#block(above: 8mm, breakable: false)[
  #grid(
    columns: (1fr, 1fr), column-gutter: 10mm, row-gutter: 9mm,
    ..([Contractor], [Registered with], [Total, with or without tax], [Price holds until], [Can begin on], [Date and signature]).map(it => [
      #v(6mm)
      #line(length: 100%, stroke: 0.6pt + ink)
      #small(it)
    ]),
  )
]

#small[A contractor who finds something else tells whoever asks for the price, before beginning. Isolate and prove dead before work.]
