// The certificate of one piece of work: what was found, what was done, as found and as left, and who answers for it.
#import "logo.typ": logo
#let data = json(bytes(sys.inputs.data))
#let ink = rgb("#17272b")
#let quiet = rgb("#4f6065")
#let rule-ink = rgb("#b9c2c0")
#let others = json(bytes(sys.inputs.fonts))
#let mono(body) = text(font: ("Atkinson Hyperlegible Mono", ..others), body)

#set document(title: data.title + " " + data.number, author: data.firm.name, description: data.title + " for " + data.property)
#set text(font: ("Atkinson Hyperlegible Next", ..others), size: 9.5pt, fill: ink, lang: "en", region: "GB")
#set par(leading: 0.58em, spacing: 0.9em)
#set page(
  paper: "a4",
  margin: (x: 18mm, top: 20mm, bottom: 20mm),
  background: if data.draft { rotate(-32deg, text(size: 92pt, weight: "bold", fill: rgb("#e9e4d8"))[Draft]) },
  header: text(size: 8pt, fill: quiet)[#data.number · #data.property #h(1fr) #if data.draft [Draft, not issued] else [Issued #data.on]],
  footer: text(size: 8pt, fill: quiet)[#data.rule_book. #data.caution #h(1fr) #context [Page #counter(page).display() of #counter(page).final().first()]],
)
#show heading.where(level: 1): it => block(above: 0pt, below: 3mm, text(size: 21pt, weight: "bold", it.body))
#show heading.where(level: 2): it => block(above: 5mm, below: 2mm, sticky: true, text(size: 12.5pt, weight: "bold", it.body))

#let pairs(rows, label: 52mm) = table(
  columns: (label, 1fr), stroke: none, inset: (x: 0mm, y: 1.1mm),
  table.header(text(size: 8pt, fill: quiet)[Item], text(size: 8pt, fill: quiet)[Recorded]),
  table.hline(stroke: 0.5pt + rule-ink),
  ..rows.map(row => (text(fill: quiet, row.label), [#row.value])).flatten(),
)

= #data.title

#grid(
  columns: (1fr, 62mm), column-gutter: 8mm,
  [
    #text(size: 13pt, weight: "bold", data.property) \
    for #data.client \
    Number #data.number. Inspection #data.reference.
  ],
  [
    #set text(size: 9pt)
    #logo(data.firm)
    *#data.firm.name* \
    #data.firm.address \
    #data.firm.phone#if data.firm.email != "" [ \ #data.firm.email]#if data.firm.line != "" [ \ #data.firm.line]
  ],
)

== The work
#pairs(data.work)

#if data.marks.len() > 0 [
  == The part, then and now
  #table(
    columns: (52mm, 1fr, 1fr), stroke: none, inset: (x: 0mm, y: 1.1mm),
    table.header(..([Marked on it], [As found], [As left]).map(h => text(size: 8pt, fill: quiet, h))),
    table.hline(stroke: 0.5pt + rule-ink),
    ..data.marks.map(m => (text(fill: quiet, m.label), mono(m.then), mono(m.now))).flatten(),
  )
]

#if data.tests.len() > 0 [
  == Tested again
  #table(
    columns: (1fr, 32mm, 32mm, 32mm), stroke: none, inset: (x: 0mm, y: 1.1mm),
    table.header(..([Test], [As found], [As left], [Held against]).map(h => text(size: 8pt, fill: quiet, h))),
    table.hline(stroke: 0.5pt + rule-ink),
    ..data.tests.map(t => (text(fill: quiet, t.label), mono(t.found), text(weight: "bold", mono(t.left)), [#t.limit])).flatten(),
  )
]

#grid(
  columns: if data.circuit.len() > 0 { (1fr, 1fr) } else { (1fr,) }, column-gutter: 8mm,
  ..if data.circuit.len() > 0 { ([
    == The circuit
    #pairs(data.circuit, label: 34mm)
  ],) } else { () },
  [
    == Supply and earthing
    #pairs(data.supply, label: 40mm)
  ],
)

== The existing installation
#data.existing

== Declaration
#data.declaration

#v(6mm)
#block(breakable: false)[
  #grid(
    columns: (1fr, 1fr), column-gutter: 10mm,
    [#text(fill: quiet)[Work done and tested by] \ *#data.by* \ #data.work_on],
    [#text(fill: quiet)[Signed for #data.firm.name] \ *#data.signed_by*#if data.role != "" [ (#data.role)] \ #data.on],
  )
  #v(12mm)
  #line(length: 70mm, stroke: 0.6pt + ink)
  #text(size: 8.5pt, fill: quiet)[Signature]
]

#pdf.attach(
  "/certificate.json",
  bytes(sys.inputs.attachment),
  relationship: "source",
  mime-type: "application/json",
  description: "The certificate as data",
)
