// The condition report. All words come in as data; this file only sets them.
#let data = json(bytes(sys.inputs.data))
#let ink = rgb("#17272b")
#let quiet = rgb("#4f6065")
#let rule-ink = rgb("#b9c2c0")
#let others = json(bytes(sys.inputs.fonts))
#let mono(body) = text(font: ("Atkinson Hyperlegible Mono", ..others), body)

#set document(
  title: data.title + " " + data.reference,
  author: data.firm.name,
  description: data.title + " on " + data.property,
)
#set text(
  font: ("Atkinson Hyperlegible Next", ..others),
  size: 9.5pt, fill: ink, lang: "en", region: "GB",
)
#set par(leading: 0.58em, spacing: 0.9em)
#set page(
  paper: "a4",
  margin: (x: 18mm, top: 20mm, bottom: 20mm),
  background: if data.draft { rotate(-32deg, text(size: 92pt, weight: "bold", fill: rgb("#e9e4d8"))[Draft]) },
  header: text(size: 8pt, fill: quiet)[#data.reference · #data.property #h(1fr) #if data.draft [Draft, not issued] else [Issue #data.issue.number, #data.issue.on]],
  footer: text(size: 8pt, fill: quiet)[#data.rule_book. #data.caution #h(1fr) #context [Page #counter(page).display() of #counter(page).final().first()]],
)
#show heading.where(level: 1): it => block(above: 0pt, below: 3mm, text(size: 21pt, weight: "bold", it.body))
#show heading.where(level: 2): it => block(above: 7mm, below: 2.5mm, sticky: true, text(size: 12.5pt, weight: "bold", it.body))
#show heading.where(level: 3): it => block(above: 4mm, below: 2mm, sticky: true, text(size: 10pt, weight: "bold", it.body))

// A code by weight of ink: solid, half, dashed, outline; its letters stand in it.
#let code-mark(code) = {
  let solid = code == "C1"
  box(
    width: 10.5mm, height: 6mm, radius: 1.2mm,
    fill: if solid { ink } else if code == "C2" { rgb("#c9d0ce") } else { none },
    stroke: (paint: ink, thickness: if code == "C2" { 1.4pt } else { 0.8pt }, dash: if code == "FI" { "dashed" } else { "solid" }),
    align(center + horizon, text(weight: "bold", size: 9pt, fill: if solid { white } else { ink }, code)),
  )
}

// Photos beside what they show: small ones side by side, large ones across.
#let photo(p) = block(breakable: false, above: 2mm, {
  if p.drawing != "" { image(p.drawing, format: "svg", width: 100%, alt: p.words) }
  text(size: 8pt, fill: quiet, p.caption)
})
#let photos(all) = {
  let small = all.filter(p => p.size != "large")
  for p in all.filter(p => p.size == "large") { block(width: 112mm, photo(p)) }
  if small.len() > 0 { grid(columns: (52mm, 52mm, 52mm), column-gutter: 3mm, ..small.map(photo)) }
}

#let pairs(rows) = table(
  columns: (52mm, 1fr),
  stroke: none,
  inset: (x: 0mm, y: 1.1mm),
  table.header(text(size: 8pt, fill: quiet)[Item], text(size: 8pt, fill: quiet)[Recorded]),
  table.hline(stroke: 0.5pt + rule-ink),
  ..rows.map(row => (text(fill: quiet, row.label), row.value)).flatten(),
)

= #data.title

#grid(
  columns: (1fr, 62mm),
  column-gutter: 8mm,
  [
    #text(size: 13pt, weight: "bold", data.property) \
    for #data.client.name#if data.client.address != "" [, #data.client.address] \
    Inspected on #data.inspected_on. Reference #data.reference.
    #if data.issue.replaces != none [
      #parbreak()
      *This issue replaces issue #data.issue.replaces.* #data.issue.reason
    ]
  ],
  [
    #set text(size: 9pt)
    *#data.firm.name* \
    #data.firm.address \
    #data.firm.phone#if data.firm.email != "" [ \ #data.firm.email]#if data.firm.line != "" [ \ #data.firm.line]
  ],
)

#v(2mm)
#block(
  width: 100%, inset: 5mm, radius: 1.5mm,
  fill: if data.outcome == "unsatisfactory" { ink } else { none },
  stroke: 1.4pt + ink,
  {
    set text(fill: if data.outcome == "unsatisfactory" { white } else { ink })
    [For continued use this installation is]
    linebreak()
    text(size: 26pt, weight: "bold", data.outcome)
    parbreak()
    data.why
    if data.outcome_reason != none [ The inspector's reason for another outcome than the codes lead to: #data.outcome_reason]
  },
)

#if data.next.by != "" [
  *Next inspection by #data.next.by.* #data.next.reason
]
#if data.duties.len() > 0 [
  *What the law is understood to ask of the landlord* (check the law that applies): #data.duties.join("; ").
]
#if data.condition != none [
  == General condition
  #data.condition
]

== What was found
#if data.observations.len() == 0 [
  Nothing that needs an observation was found within the extent below.
] else [
  #table(
    columns: (15mm, 1fr),
    stroke: none,
    inset: (x: 0mm, y: 2mm),
    table.header(text(size: 8pt, fill: quiet)[Code], text(size: 8pt, fill: quiet)[Observation]),
    table.hline(stroke: 0.5pt + rule-ink),
    ..data.observations.enumerate().map(((at, o)) => (
      ..if o.building != "" and (at == 0 or data.observations.at(at - 1).building != o.building) {
        (table.cell(colspan: 2, text(weight: "bold", o.building)),)
      } else { () },
      code-mark(o.code),
      [
        #text(weight: "bold", o.text)#if o.place != "" [ · #o.place]
        #if o.plain != "" [ \ #o.plain]
        #if o.remedy != "" [ \ #text(fill: quiet)[Usual remedy: #o.remedy]]
        #if o.mended and not o.counts [ \ *Made good on the day, does not count to the outcome.* As left: #o.as_left Retest: #o.retest#if o.certificates != "" [. Certificate #o.certificates]]
        #if o.mended and o.counts [ \ *Made good on the day; without as left and retest it still counts.* #o.as_left #o.retest]
        #if o.told != "" [ \ #text(fill: quiet, o.told)]
        #if o.photos.len() > 0 { photos(o.photos) }
      ],
      table.hline(stroke: 0.4pt + rule-ink),
    )).flatten(),
  )
]
#text(size: 8.5pt, fill: quiet)[#data.meaning.map(m => [*#m.code* #m.means]).join([; ]).]

#if data.concerns.len() > 0 [
  == What we were asked about
  #list(..data.concerns.map(c => [
    *#c.asked*#if c.by != "" [ (#c.by)] \ #if c.found != "" [#c.found] else [Not answered yet.]
  ]))
]

== Extent and limitations
*Agreed extent.* #data.extent

#if data.set_aside.len() > 0 [
  *Left disconnected, or left out, by agreement*
  #list(..data.set_aside.map(s => [*#s.name:* #s.says.#if s.why != "" [ #s.why.] #s.means]))
]

#let limits = data.limitations + data.limited
#if limits.len() == 0 [No limitations were recorded.] else [
  #list(..limits.map(l => [
    #l.what#if l.reason != "" [. Reason: #l.reason]#if l.agreed_with != "" [. Agreed with #l.agreed_with]
  ]))
]
#if data.sampling != none [#data.sampling #data.sampling_drawn

  #data.sampling_plainly
]

#if data.limited_warning != none [*#data.limited_warning*]

#if data.unconfirmed.len() > 0 [
  *Taken from earlier papers and not confirmed on site:* #data.unconfirmed.join("; ").
]

#if data.overrulings.len() > 0 [
  *Figures that the inspector judges otherwise than the rules used here*
  #list(..data.overrulings.map(o => [#o]))
]

== The job
#pairs(data.facts)
#if data.visits.len() > 0 [*On site.* #data.visits.join("; ").]

#if data.instruments.len() > 0 [*Instruments.* #data.instruments.join("; ").]

#if data.evidence != "" [*What was done.* #data.evidence]

#if data.parts.len() > 0 [
  *Parts and their years.* Each is held against the edition of its own day.
  #list(..data.parts.map(p => [#p.name: #p.years#if p.evidence != "" [ (#p.evidence)]]))
]

#if data.no_photos [*Photos.* None were taken, as was asked.]

#if data.tests_tell.len() > 0 [
  == What the tests tell
  #list(..data.tests_tell.map(t => [*#t.test.* #t.means]))
]

== Supply and earthing
#image(bytes(data.intake.svg), format: "svg", width: 100%, alt: data.intake.words)
#pairs(data.supply)

#if data.bonds.len() > 0 [
  #table(
    columns: (1fr, auto, auto, auto, auto), stroke: none, inset: (x: 1mm, y: 1.2mm),
    table.header(..([Main bond to], [Found], [Conductor], [At the clamp], [At the pipe]).map(h => text(size: 8pt, fill: quiet, h))),
    ..data.bonds.map(b => ([#b.service], [#b.state], mono(b.size), mono(b.at_clamp), mono(b.at_pipe))).flatten(),
  )
]

== What was looked at
#set text(size: 8.5pt)
#for part in data.schedule [
  === #part.part
  #table(
    columns: (1fr, 38mm, 34mm), stroke: none, inset: (x: 0mm, y: 0.8mm),
    table.header(..([Looked at], [Clause], [Found]).map(h => text(size: 7.5pt, fill: quiet, h))),
    ..part.lines.map(l => ([#l.label], text(fill: quiet, l.clause), [*#l.state*])).flatten(),
  )
]
#set text(size: 9.5pt)

== Signed
#block(breakable: false)[
  #grid(
    columns: (1fr, 1fr), column-gutter: 10mm, row-gutter: 8mm,
    [#text(fill: quiet)[Inspected, tested and reported by] \ *#data.issue.signed_by* #if data.issue.role != "" [(#data.issue.role)] \ for #data.firm.name],
    [#text(fill: quiet)[Date] \ #if data.draft [not issued] else [#data.issue.on]],
    [#v(6mm) #line(length: 100%, stroke: 0.6pt + ink) #text(size: 8pt, fill: quiet)[Signature of the inspector]],
    [#v(6mm) #line(length: 100%, stroke: 0.6pt + ink) #text(size: 8pt, fill: quiet)[Authorised by]],
  )
]

== Rules in use
#data.rule_book. Tests in this order: #data.test_order.join(", "). 
#if data.house_rules.len() == 0 [House rules: all as usual.] else [
  #table(
    columns: (1fr, auto, auto), stroke: none, inset: (x: 1mm, y: 1.2mm),
    table.header(..([House rules that differ from the usual], [Here], [Usual]).map(h => text(size: 8pt, fill: quiet, h))),
    ..data.house_rules.map(h => ([#h.label], mono(h.value), mono(h.usual))).flatten(),
  )
]
#if data.corrections.len() > 0 [Tables read otherwise than printed: #data.corrections.join("; ").]
The readings and verdicts of this inspection are attached to this file as data (inspection.json).

// The table of circuits: how wide each column is, what is set in words, and what as figures.
#let widths = (
  way: 8mm, designation: 1fr, form: 12mm, points_served: 9mm, cable: 15mm, device: 31mm, rcd_rated_ma: 10mm,
  r1_ohm: 11mm, rn_ohm: 11mm, r2_ohm: 11mm, r1_r2_ohm: 13mm, insulation_ln_mohm: 14mm, insulation_lne_mohm: 14mm,
  polarity: 11mm, zs_ohm: 13mm, zs_limit: 13mm, rcd_trip_ms: 12mm, rcd_button: 12mm,
)
#let words = ("designation", "device")
#let plain = ("designation", "form", "device", "polarity", "rcd_button")

#set page(flipped: true, margin: (x: 14mm, top: 18mm, bottom: 16mm))
#for (index, board) in data.boards.enumerate() {
  if index > 0 { pagebreak(weak: true) }
  [
    == #board.name: circuits and results
    #if board.feed != "" [#board.feed. \ ]
    #text(fill: quiet, board.facts.map(f => f.label + " " + f.value).join(" · "))

    #set text(size: 7.6pt)
    #let head(body) = text(weight: "bold", size: 7pt, body)
    #table(
      columns: data.columns.map(c => widths.at(c.key)),
      align: (col, row) => if data.columns.at(col).key in words { left + horizon } else { center + horizon },
      stroke: (x, y) => (bottom: (if y == 0 { 0.9pt } else { 0.35pt }) + (if y == 0 { ink } else { rule-ink })),
      inset: (x: 0.8mm, y: 1.5mm),
      table.header(..data.columns.map(c => head(c.head))),
      ..board.circuits.map(c => if c.spare {
        (mono(c.way), text(fill: quiet)[Spare way], ..range(data.columns.len() - 2).map(_ => []))
      } else {
        data.columns.zip(c.cells).map(((column, cell)) => if column.key in plain { cell } else { mono(cell) })
      }).flatten(),
    )
    #set text(size: 8.5pt)
    #if board.rcds.len() > 0 [
      #table(
        columns: (1fr, 1fr, auto, auto, auto, auto, auto, auto), stroke: none, inset: (x: 1mm, y: 1mm),
        table.header(..([Residual current device], [Ways behind it], [Standard], [Rated], [Trip], [½ × holds], [5 ×], [Button]).map(h => text(size: 7.5pt, fill: quiet, h))),
        ..board.rcds.map(r => ([#r.name], mono(r.behind), [#r.standard], mono(r.rated), mono(r.trip), [#r.half], mono(r.five), [#r.button])).flatten(),
      )
    ]
    #if board.said != "" [#board.said \ ]
    #for sum in board.sums [
      *Whole board, #sum.label: #sum.value.* #sum.says \
    ]
  ]
}

#pdf.attach(
  "/inspection.json",
  bytes(sys.inputs.attachment),
  relationship: "source",
  mime-type: "application/json",
  description: "The inspection as data, for the next inspector",
)
