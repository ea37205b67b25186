// Labels for boards: one a page, to be printed on labels of 90 by 55 mm.
#let data = json(bytes(sys.inputs.data))
#let ink = rgb("#17272b")
#let quiet = rgb("#4f6065")
#let others = json(bytes(sys.inputs.fonts))

#set document(title: data.subject, author: data.firm.name, description: data.subject)
#set text(font: ("Atkinson Hyperlegible Next", ..others), size: 9pt, fill: ink, lang: "en", region: "GB")
#set page(width: 90mm, height: 55mm, margin: 5mm)
#set par(leading: 0.5em, spacing: 0.6em)
#show heading: it => text(size: 11pt, weight: "bold", it.body)

#for (at, label) in data.labels.enumerate() [
  #if at > 0 { pagebreak() }
  #heading(level: 1, label.title)
  #v(2mm)
  #text(size: 21pt, weight: "bold", label.figure)
  #v(1mm)
  #for line in label.lines [#line \ ]
  #v(1fr)
  #line(length: 100%, stroke: 0.6pt + ink)
  #text(size: 7.5pt, fill: quiet)[*#data.firm.name*#if data.firm.phone != "" [ · #data.firm.phone] · #label.board]
]
