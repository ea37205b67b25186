// The condition report. All words come in as data; this file and those of `condition` only set them.
#import "long_words.typ": broken, long-word
#import "condition/style.typ": *
#import "condition/page_one.typ": page-one
#import "condition/found.typ": asked, extent, what-was-found
#import "condition/record.typ": closing, job, rules, supply, tell
#import "condition/results.typ": of-board, points, rings, schedule, since

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
#show long-word: broken
#set page(
  paper: "a4",
  margin: (x: 18mm, top: 18mm, bottom: 18mm),
  background: if data.draft { rotate(-32deg, text(size: 92pt, weight: "bold", fill: rgb("#efebe2"))[Draft]) },
  // Page one has the letterhead.
  header: context if counter(page).get().first() > 1 {
    text(size: 8pt, fill: quiet)[#data.reference_short · #data.property_short #h(1fr) #if data.draft [Draft, not issued] else [Issue #data.issue.number, #data.issue.on]]
  },
  footer: text(size: 8pt, fill: quiet)[#data.rule_book. #data.caution #h(1fr) #context [Page #counter(page).display() of #counter(page).final().first()]],
)
#show heading.where(level: 1): it => block(above: 0pt, below: 2.5mm, text(size: 19pt, weight: "bold", it.body))
#show heading.where(level: 2): it => block(above: 6.5mm, below: 2.5mm, sticky: true, text(size: 12.5pt, weight: "bold", it.body))
#show heading.where(level: 3): it => block(above: 3mm, below: 1.2mm, sticky: true, text(size: 9.5pt, weight: "bold", it.body))

#page-one
#pagebreak()
#what-was-found
#asked
#extent
#job
#tell
#supply
#rules
#closing

#set page(flipped: true, margin: (x: 14mm, top: 16mm, bottom: 15mm))
#for board in data.boards { of-board(board) }
#rings
#points
#since
#schedule

#pdf.attach(
  "/inspection.json",
  bytes(sys.inputs.attachment),
  relationship: "source",
  mime-type: "application/json",
  description: "The inspection as data, for the next inspector",
)
