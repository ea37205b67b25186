// The record of the job: who, when, with what; the supply; words, rules and signatures.
#import "style.typ": *

#let job = [
  == The job
  #pairs(data.facts + if data.condition != none { ((label: "General condition", value: data.condition),) }, columns: 1)
  #if data.visits.len() > 0 [*On site.* #data.visits.join("; ").]

  #if data.evidence != "" [*What was done.* #data.evidence]

  #if data.instruments.len() > 0 [
    #table(
      columns: (1fr, auto, auto, auto), stroke: none, inset: (x: 0mm, y: 0.9mm), column-gutter: 5mm,
      table.header(..([Instrument], [Kind], [Serial number], [Calibration holds until]).map(head)),
      table.hline(stroke: 0.5pt + rule-ink),
      ..data.instruments.map(i => (i.name, i.kind, mono(i.serial), i.calibration)).flatten(),
    )
  ] else [*Instruments.* None were recorded.]

  #if data.nulls != "" [*Test leads nulled.* #data.nulls.]

  #if data.isolations.len() > 0 [
    *Safe isolation.* #data.isolations.map(i => [#i.board: #i.says]).join("; ").
  ]

  #if data.parts.len() > 0 [
    *Parts and their years.* Each is held against the edition of its own day.
    #list(..data.parts.map(p => [#p.name: #p.years#if p.evidence != "" [ (#p.evidence)]]))
  ]
  #if data.no_photos [*Photos.* None were taken, as was asked.]
]

#let tell = if data.tests_tell.len() > 0 [
  == What the tests tell
  #list(..data.tests_tell.map(t => [*#t.test.* #t.means]))
]

#let supply = [
  == Supply and earthing
  #image(bytes(data.intake.svg), format: "svg", width: 100%, alt: data.intake.words)
  #block(breakable: false, width: 100%, pairs(data.supply))
  #if data.bonds.len() > 0 [
    #table(
      columns: (1fr, auto, auto, auto, auto), stroke: none, inset: (x: 0mm, y: 0.9mm), column-gutter: 6mm,
      table.header(..([Main bond to], [Found], [Conductor], [At the clamp], [At the pipe]).map(head)),
      table.hline(stroke: 0.5pt + rule-ink),
      ..data.bonds.map(b => (b.service, b.state, mono(b.size), mono(b.at_clamp), mono(b.at_pipe))).flatten(),
    )
  ]
]

#let rules = [
  == Rules in use
  #data.rule_book. Tests in this order: #data.test_order.join(", ").
  #if data.house_rules.len() == 0 [Choices of this firm where the standard leaves one: none differ.] else [
    #table(
      columns: (1fr, auto, auto), stroke: none, inset: (x: 0mm, y: 0.9mm), column-gutter: 6mm,
      table.header(..([Choices of this firm that differ from the usual], [Here], [Usual]).map(head)),
      ..data.house_rules.map(h => (h.label, mono(h.value), mono(h.usual))).flatten(),
    )
  ]
  #if data.corrections.len() > 0 [Tables read otherwise than printed: #data.corrections.join("; ").]
  The readings and verdicts of this inspection are attached to this file as data (inspection.json).
]

#let word(w) = ([*#w.word*], w.means)
#let words-of(all) = table(
  columns: (27mm, 1fr), stroke: none, inset: (x: 0mm, y: 0.7mm), column-gutter: 3mm,
  table.header(head[Word], head[Means]), ..all.map(word).flatten(),
)
#let glossary = {
  let half = calc.ceil(data.glossary.len() / 2)
  set text(size: 8.5pt)
  grid(columns: (1fr, 1fr), column-gutter: 8mm, words-of(data.glossary.slice(0, half)), words-of(data.glossary.slice(half)))
}

#let signature(s) = [
  #text(fill: quiet, s.says) \
  *#s.name*#if s.role != "" [ (#s.role)] \
  #s.at
  #if s.drawn != "" { image(bytes(s.drawn), format: "svg", height: 12mm, alt: "Signature of " + s.name) } else { v(9mm) }
  #line(length: 100%, stroke: 0.6pt + ink)
  #small[#if s.typed [Signed by typing the name, while signed in] else [Signature]]
]

// Held together, so that the last page of this part is never one of a few lines.
#let closing = block(breakable: false, width: 100%)[
  == Words in this report
  #glossary
  == Signed
  #grid(columns: (1fr, 1fr), column-gutter: 10mm, align: bottom, ..data.signatures.map(signature))
]
