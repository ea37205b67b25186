// The hand that every part of the condition report is drawn in.
#import "../logo.typ": logo
#let data = json(bytes(sys.inputs.data))
#let others = json(bytes(sys.inputs.fonts))
#let ink = rgb("#17272b")
#let quiet = rgb("#4f6065")
#let rule-ink = rgb("#b9c2c0")
#let shade = rgb("#dde4e1")
#let mono(body) = text(font: ("Atkinson Hyperlegible Mono", ..others), body)
#let small(body) = text(size: 8pt, fill: quiet, body)
#let head(body) = text(size: 7.5pt, fill: quiet, body)

// A code by weight of ink: solid, half, dashed, outline; its letters stand in it.
#let code-mark(code) = box(
  width: 10.5mm, height: 6mm, radius: 1.2mm,
  fill: if code == "C1" { ink } else if code == "C2" { rgb("#c9d0ce") } else { none },
  stroke: (
    paint: ink, thickness: if code == "C2" { 1.4pt } else { 0.8pt },
    dash: if code == "FI" { "dashed" } else { "solid" },
  ),
  align(center + horizon, text(weight: "bold", size: if code.len() > 2 { 7.5pt } else { 9pt }, fill: if code == "C1" { white } else { ink }, code)),
)

// Facts beside what they are of, in so many columns.
#let pairs(rows, columns: 2) = {
  let most = calc.ceil(rows.len() / columns)
  let part(rows) = table(
    columns: (auto, 1fr), stroke: none, inset: (x: 0mm, y: 0.9mm), column-gutter: 4mm,
    table.header(head[Item], head[Recorded]),
    table.hline(stroke: 0.5pt + rule-ink),
    ..rows.map(row => (text(fill: quiet, row.label), row.value)).flatten(),
  )
  grid(columns: (1fr,) * columns, column-gutter: 10mm, ..range(columns).map(at => {
    let own = rows.slice(calc.min(at * most, rows.len()), calc.min((at + 1) * most, rows.len()))
    if own.len() > 0 { part(own) }
  }))
}

// A cell of a table of results: what is outside its limit stands out, a reason stands below the table.
#let result(cell, plain: false) = {
  let said = cell.text + if cell.note > 0 { super[ #cell.note] }
  let said = if plain { said } else { mono(said) }
  if cell.mark == "fail" { strong(said) } else { said }
}
#let shaded(cell, plain: false, ..more) = table.cell(
  fill: if cell.mark != "" { shade } else { none }, ..more, result(cell, plain: plain),
)
#let notes(all) = for note in all [#super[#note.number] #note.says. #h(3mm)]
