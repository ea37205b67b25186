// The confirmation that what a report required is done: each item with its figures before and after, and the result.
#import "condition/style.typ": code-mark, data, ink, logo, mono, others, quiet, rule-ink, shade, small
#import "long_words.typ": broken, long-word

#set document(title: data.title, author: data.firm.name, description: data.title + ", " + data.home)
#set text(font: ("Atkinson Hyperlegible Next", ..others), size: 10pt, fill: ink, lang: "en", region: "GB")
#set par(leading: 0.58em, spacing: 0.9em)
#show long-word: broken
#set page(
  paper: "a4", margin: (x: 18mm, top: 18mm, bottom: 20mm),
  footer: small[#data.rule_book. #data.caution #h(1fr) #context [Page #counter(page).display() of #counter(page).final().first()]],
)
#show heading.where(level: 1): it => block(above: 0pt, below: 3mm, text(size: 20pt, weight: "bold", it.body))

#grid(
  columns: (1fr, auto), column-gutter: 8mm,
  [
    #logo(data.firm)
    #text(size: 13pt, weight: "bold", data.firm.name) \
    #small[#(data.firm.address, data.firm.phone, data.firm.email).filter(it => it != "").join(" · ")#if data.firm.line != "" [ \ #data.firm.line]]
  ],
  align(right)[#text(size: 9.5pt, data.number) \ #small(data.on)],
)
#v(5mm)

= #data.title

#text(size: 12pt, weight: "bold", data.home) \
Closes the #lower(data.report.title), issue #data.report.number of #data.report.on, which was #data.report.outcome. No new inspection is needed for it.

#let item(one) = block(
  width: 100%, above: 0mm, below: 0mm, inset: (y: 3mm), stroke: (bottom: 0.5pt + rule-ink), breakable: true,
  grid(
    columns: (13mm, 1fr, 64mm), column-gutter: 3mm,
    code-mark(one.code),
    [
      #text(size: 11pt, weight: "bold", one.title) \
      #if one.where != "" [#small(one.where) \ ]
      #if one.done != "" [#one.done \ ]
      #small[#if one.by != "" [Done by #one.by#if one.on != "" [, #one.on]. ]#if one.evidence.len() > 0 [Evidence: #one.evidence.join(", "). ]Accepted by #one.accepted_by, #one.accepted_on.]
    ],
    align(right, one.figures.map(((label, before, after, unit)) => [
      #small(label) \
      #mono[#text(fill: quiet)[#if before != "" [#before] else [–]] #sym.arrow.r *#after*#if unit != "" [ #unit]]
    ]).join(linebreak())),
  ),
)
#v(2mm)
#line(length: 100%, stroke: 0.8pt + ink)
#for one in data.items { item(one) }

#block(width: 100%, fill: shade, radius: 1.8mm, inset: (x: 5mm, y: 4mm), above: 6mm, breakable: false)[
  #text(size: 14pt, weight: "bold")[Cleared.] #data.result #data.stays
]

#v(6mm)
#block(breakable: false, grid(
  columns: (1fr, 70mm), column-gutter: 10mm, align: (left + bottom, left + bottom),
  [
    #small(data.signature.says) \
    #if data.signature.drawn != "" { image(bytes(data.signature.drawn), format: "svg", height: 13mm, alt: "Signature of " + data.signature.name) }
    *#data.signature.name*#if data.signature.role != "" [ (#data.signature.role)]#if data.signature.typed [, signed by typing the name] \
    #small(data.signature.at)
  ],
  [
    *Is this paper genuine?* \
    #set text(size: 9pt)
    #if data.check_at.svg == "" [Ask us and compare its check code: #mono(strong(data.check))] else {
      grid(
        columns: (1fr, 18mm), column-gutter: 3mm,
        [Enter the number of the report and this code at #data.check_at.address: \ #mono(strong(data.check))],
        image(bytes(data.check_at.svg), format: "svg", width: 18mm, alt: "Square code that opens the check of this paper"),
      )
    }
  ],
))

#pdf.attach(
  "/confirmation.json",
  bytes(sys.inputs.attachment),
  relationship: "source",
  mime-type: "application/json",
  description: "The confirmation as data",
)
