// Page one, for whoever let the home: the result, by when, what to do, what it rests on.
#import "style.typ": *

#let letterhead = grid(
  columns: (1fr, auto), column-gutter: 8mm,
  [
    #logo(data.firm)
    #text(size: 13pt, weight: "bold", data.firm.name) \
    #small[#(data.firm.address, data.firm.phone, data.firm.email).filter(it => it != "").join(" · ")#if data.firm.line != "" [ \ #data.firm.line]]
  ],
  align(right)[
    #text(size: 9.5pt)[#data.reference_short#if not data.draft [ · issue #data.issue.number]] \
    #small[#if data.draft [Draft, not issued] else [#data.issue.on]]
  ],
)

#let verdict = {
  let bad = data.outcome == "unsatisfactory"
  block(
    width: 100%, inset: (x: 5.5mm, y: 4.5mm), radius: 1.8mm, below: 5mm,
    fill: if bad { ink } else { none }, stroke: 1.4pt + ink,
    {
      set text(fill: if bad { white } else { ink })
      text(size: 24pt, weight: "bold", data.outcome)
      v(-2.5mm)
      text(size: 11pt, data.plainly)
      if data.outcome_reason != none [
        #parbreak()
        *Why the inspector's result differs from the codes:* #data.outcome_reason
      ]
    },
  )
}

// What was done and what comes, on one line.
#let timeline = {
  let events = data.timeline
  if events.len() > 1 {
    block(above: 5mm, below: 6mm, grid(
      columns: (1fr,) * events.len(),
      row-gutter: 1.6mm,
      ..events.map(e => pad(right: 2mm, text(size: 9.5pt, weight: "bold", e.on))),
      ..events.enumerate().map(((at, e)) => box(width: 100%, height: 3mm, {
        if at < events.len() - 1 { place(left + horizon, line(length: 100%, stroke: 1pt + ink)) }
        place(left + horizon, circle(radius: 1.4mm, fill: if e.done { ink } else { white }, stroke: 1pt + ink))
      })),
      ..events.map(e => pad(right: 2mm, small(e.what))),
    ))
  }
}

#let row(o) = {
  let known = o.photo != none and o.photo.drawing != ""
  block(breakable: false, width: 100%, above: 0mm, below: 0mm, inset: (y: 2.6mm), stroke: (bottom: 0.5pt + rule-ink), grid(
    columns: if known { (13mm, 1fr, 23mm) } else { (13mm, 1fr) },
    column-gutter: 3mm,
    code-mark(o.code),
    {
      text(size: 11pt, weight: "bold", o.title)
      if o.where != "" [ \ #small(o.where)]
      if o.todo != "" [ \ #text(size: 9pt, o.todo)]
    },
    ..if known { (image(o.photo.drawing, format: "svg", width: 23mm, height: 16mm, fit: "contain", alt: o.photo.words),) },
  ))
}

#let foot = block(width: 100%, above: 5mm, {
  line(length: 100%, stroke: 0.8pt + ink)
  grid(
    columns: (1fr, 58mm), column-gutter: 8mm, align: top + left,
    [
      *What this rests on* \
      #text(size: 9pt, data.rests_on)
    ],
    [
      *Is this paper genuine?* \
      #set text(size: 9pt)
      #if data.check == "" [A draft has no check code. It is not issued and nobody signed it.] else if data.check_at.svg == "" [
        Ask us for issue #data.issue.number of #data.reference_short and compare its check code: \
        #text(size: 11pt, weight: "bold", mono(data.check))
      ] else {
        grid(
          columns: (1fr, 20mm), column-gutter: 3mm,
          [Enter number and check code at #data.check_at.address: \ #text(size: 10.5pt, weight: "bold", mono(data.check))],
          image(bytes(data.check_at.svg), format: "svg", width: 20mm, alt: "Square code that opens the check of this paper"),
        )
      }
    ],
  )
})

#let page-one = {
  letterhead
  v(5mm)
  heading(level: 1)[Electrical condition of #data.property]
  [#data.title for #data.client.name#if data.client.address != "" [, #data.client.address]. Inspected on #data.inspected_on.]
  if data.issue.replaces != none [
    #parbreak()
    *This issue replaces issue #data.issue.replaces.* #data.issue.reason
  ]
  v(1mm)
  verdict
  timeline
  if data.first.len() == 0 [#data.none_found]
  for o in data.first { row(o) }
  if data.first_more != "" { block(above: 3mm, strong(data.first_more)) }
  place(bottom, float: true, clearance: 5mm, foot)
}
