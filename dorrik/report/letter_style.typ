// The firm's headed paper: letterhead, addressee, subject, closing. Letters bring their own words.
#import "logo.typ": logo
#import "long_words.typ": broken, long-word
#let ink = rgb("#17272b")
#let quiet = rgb("#4f6065")
#let others = json(bytes(sys.inputs.fonts))
#let mono(body) = text(font: ("Atkinson Hyperlegible Mono", ..others), body)

#let letter(data, body) = {
  set document(title: data.subject, author: data.firm.name, description: data.subject)
  set text(
    font: ("Atkinson Hyperlegible Next", ..others),
    size: 10.5pt, fill: ink, lang: "en", region: "GB",
  )
  set par(leading: 0.62em, spacing: 1em)
  show long-word: broken
  set page(paper: "a4", margin: (x: 22mm, top: 20mm, bottom: 20mm), footer: text(size: 8pt, fill: quiet)[#data.foot])
  show heading: it => block(above: 6mm, below: 4mm, text(size: 17pt, weight: "bold", it.body))
  grid(
    columns: (1fr, auto), column-gutter: 8mm,
    [
      #logo(data.firm)
      #text(size: 13pt, weight: "bold", data.firm.name) \
      #text(size: 8pt, fill: quiet)[#(data.firm.address, data.firm.phone, data.firm.email).filter(it => it != "").join(" · ")#if data.firm.line != "" [ \ #data.firm.line]]
    ],
    align(right, text(size: 9.5pt, data.on)),
  )
  v(8mm)
  data.to
  heading(level: 1, data.subject)
  body
  v(8mm)
  block(breakable: false)[
    #data.signed_by, #data.role \
    #data.firm.name
    #v(12mm)
    #line(length: 70mm, stroke: 0.6pt + ink)
    #text(size: 8.5pt, fill: quiet)[Signature]
  ]
}
