// Results, in landscape: circuits board by board, devices, points, beside the last time, and the schedule.
#import "style.typ": *

// How wide each column is, what is set in words, and what as figures.
#let widths = (
  way: 9mm, designation: 1fr, form: 13mm, points_served: 11mm, cable: 16mm, device: 30mm, rcd_rated_ma: 10mm,
  r1_ohm: 11mm, rn_ohm: 11mm, r2_ohm: 11mm, r1_r2_ohm: 14mm, insulation_ln_mohm: 14mm, insulation_lne_mohm: 14mm,
  polarity: 14mm, zs_ohm: 13mm, zs_limit: 13mm, rcd_trip_ms: 13mm, rcd_button: 14mm,
)
#let words = ("designation", "device")
#let plain = ("designation", "form", "device", "polarity", "rcd_button")

#let circuits(board) = {
  set text(size: 7.8pt)
  table(
    columns: data.columns.map(c => widths.at(c.key)),
    align: (col, row) => if data.columns.at(col).key in words { left + horizon } else { center + horizon },
    stroke: (x, y) => (bottom: (if y == 0 { 0.9pt } else { 0.35pt }) + (if y == 0 { ink } else { rule-ink })),
    inset: (x: 0.8mm, y: 1.5mm),
    table.header(..data.columns.map(c => text(weight: "bold", size: 7.2pt, c.head))),
    ..board.circuits.map(c => if c.spare {
      (mono(c.way), text(fill: quiet)[Spare way], ..range(data.columns.len() - 2).map(_ => []))
    } else {
      data.columns.zip(c.cells).map(((column, cell)) => shaded(cell, plain: column.key in plain))
    }).flatten(),
  )
}

#let devices(board) = if board.rcds.len() > 0 {
  table(
    columns: (1fr, 1fr, auto, auto, auto, auto, auto, auto), stroke: none, inset: (x: 1mm, y: 0.9mm), column-gutter: 4mm,
    table.header(..([Residual current device], [Ways behind it], [Standard], [Rated mA], [Trip ms], [½ × holds], [5 × ms], [Button]).map(head)),
    table.hline(stroke: 0.5pt + rule-ink),
    ..board.rcds.map(r => (r.name, mono(r.behind), r.standard, ..r.cells.map(c => shaded(c)))).flatten(),
  )
}

#let of-board(board) = {
  heading(level: 2)[#board.name: circuits and results]
  if board.feed != "" [#board.feed. \ ]
  block(below: 2.5mm, sticky: true, text(fill: quiet, board.facts.map(f => f.label + " " + f.value).join(" · ")))
  circuits(board)
  set text(size: 8.5pt)
  if board.notes.len() > 0 { block(above: 2mm, below: 2mm, notes(board.notes)) }
  if board.marked { block(above: 2mm, below: 2mm, text(fill: quiet)[Shaded: worth a look. Shaded and bold: outside its limit, or not as it should be.]) }
  devices(board)
  if board.said != "" { block(above: 2mm, below: 2mm, board.said) }
  for sum in board.sums { block(above: 1.5mm, below: 1.5mm)[*Whole board, #sum.label: #sum.value.* #sum.says] }
}

#let ring(r) = block(breakable: false, width: 100%, {
  image(bytes(r.svg), format: "svg", width: 100%, alt: r.words)
  small(r.words)
})
#let rings = if data.rings.len() > 0 {
  [== Rings that tell something]
  grid(columns: (1fr, 1fr, 1fr), gutter: 6mm, ..data.rings.map(ring))
}

#let point-table(rows) = {
  set text(size: 8pt)
  table(
    columns: (1fr,) + data.point_columns.map(_ => auto), stroke: (x, y) => (bottom: 0.35pt + rule-ink), inset: (x: 1mm, y: 0.8mm),
    align: (col, row) => if col == 0 { left } else { center },
    table.header(..([Point],) .map(head), ..data.point_columns.map(head)),
    ..rows.map(r => if r.head != "" { (table.cell(colspan: data.point_columns.len() + 1, strong(r.head)),) } else {
      (r.name, ..r.cells.map(c => shaded(c)))
    }).flatten(),
  )
}
#let points = if data.points.len() > 0 {
  [== Points that were measured]
  for pair in data.points {
    grid(columns: (1fr, 1fr), column-gutter: 8mm, ..pair.map(rows => if rows.len() > 0 { point-table(rows) }))
  }
  if data.point_notes.len() > 0 { block(above: 2mm, text(size: 8.5pt, notes(data.point_notes))) }
}

#let since = if data.since.len() > 0 {
  [== Beside the last time]
  block(below: 2mm, sticky: true, text(size: 8.5pt, fill: quiet)[Then (#data.since_days) → now. Bold: worse by more than the instruments can differ.#if not data.since_all [ Only circuits that got worse are listed.]])
  set text(size: 8pt)
  table(
    columns: (auto,) + data.since_columns.map(_ => 1fr), stroke: (x, y) => (bottom: 0.35pt + rule-ink), inset: (x: 1mm, y: 0.9mm),
    table.header(..([Circuit],) .map(head), ..data.since_columns.map(head)),
    ..data.since.map(row => (
      row.name,
      ..row.cells.map(c => if c == none [–] else {
        let said = mono(c.before + " → " + c.now)
        if c.worse { table.cell(fill: shade, strong(said)) } else { said }
      }),
    )).flatten(),
  )
}

// Held together in columns: the last page is never one of a few lines.
#let schedule = block(breakable: false, width: 100%)[
  == What was looked at
  #set text(size: 7.8pt)
  #block(below: 1mm, text(fill: quiet)[LIM: see limitations. A code stands for the observation of that code.])
  #grid(columns: (1fr,) * calc.max(data.schedule.len(), 1), column-gutter: 7mm, ..data.schedule.map(column => for part in column {
    heading(level: 3, part.part)
    table(
      columns: (1fr, 19mm, 19mm), stroke: none, inset: (x: 0mm, y: 0.55mm), column-gutter: 2mm,
      table.header(..([Looked at], [#data.schedule_clauses], [Found]).map(head)),
      ..part.lines.map(l => (l.label, text(fill: quiet, l.clause), strong(l.state))).flatten(),
    )
  }))
]
