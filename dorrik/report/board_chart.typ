// The circuit chart of each board, to hang inside its cover: large enough to be read by torch light.
#import "condition/style.typ": data, ink, logo, mono, others, quiet, rule-ink, small
#import "long_words.typ": broken, long-word

#set document(title: data.subject, author: data.firm.name, description: data.subject + ", " + data.home)
#set text(font: ("Atkinson Hyperlegible Next", ..others), size: 12pt, fill: ink, lang: "en", region: "GB")
#show long-word: broken
#set page(
  paper: "a4", margin: (x: 16mm, top: 15mm, bottom: 18mm),
  footer: small[#data.caution #h(1fr) #data.firm.name #data.firm.phone],
)
#show heading.where(level: 1): it => block(above: 0pt, below: 2mm, text(size: 22pt, weight: "bold", it.body))

#for (at, board) in data.boards.enumerate() {
  if at > 0 { pagebreak() }
  heading(level: 1, board.name)
  [#data.home#if board.about != "" [ · #board.about]]
  linebreak()
  small[As found#if data.on != "" [ on #data.on]#if data.reference != "" [, report #data.reference]]
  v(2mm)
  table(
    columns: (14mm, 1fr, 30mm, 24mm, 20mm), stroke: (bottom: 0.5pt + rule-ink), inset: (x: 1mm, y: 2.2mm),
    align: (left, left, left, left, right),
    table.header(..([Way], [Circuit], [Device], [RCD], [Points]).map(h => text(size: 9pt, fill: quiet, h))),
    ..board.rows.map(row => (
      strong(mono(row.way)), strong(row.circuit), mono(row.device), mono(row.rcd), mono(row.points),
    )).flatten(),
  )
  if board.rows.len() == 0 [No circuit is recorded.]
}
#if data.boards.len() == 0 [No board is recorded.]
