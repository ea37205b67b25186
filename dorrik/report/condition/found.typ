// What was found, in detail: words of the trade, clause, readings, photos; then what was asked, and the limits of it all.
#import "style.typ": *

// Photos beside what they show: none higher than a quarter of a page, so that no page is left half empty for one.
#let photo(p, most) = block(breakable: false, width: 100%, above: 2mm, below: 1mm, {
  if p.drawing != "" { image(p.drawing, format: "svg", width: 100%, height: most, fit: "contain", alt: p.words) }
  v(0.6mm, weak: true)
  small(p.caption)
})
#let photos(all) = {
  let large = all.filter(p => p.size == "large")
  let others = all.filter(p => p.size != "large")
  if large.len() > 0 { grid(columns: (1fr, 1fr), gutter: 3mm, ..large.map(p => photo(p, 56mm))) }
  if others.len() > 0 { grid(columns: (1fr, 1fr, 1fr), gutter: 3mm, ..others.map(p => photo(p, 36mm))) }
}

#let observation(o) = block(width: 100%, above: 0mm, below: 0mm, inset: (y: 2.4mm), stroke: (bottom: 0.4pt + rule-ink), grid(
  columns: (13mm, 1fr), column-gutter: 3mm,
  code-mark(o.code),
  [
    #block(sticky: o.photos.len() > 0, below: 2mm)[
      #text(weight: "bold", o.text)#if o.place != "" [ · #o.place]
      #if o.plain != "" [ \ #o.plain]
      #if o.because != "" [ \ #o.because]
      #if o.remedy != "" [ \ #text(fill: quiet)[Usual remedy: #o.remedy]]
      #if o.mended and not o.counts [ \ *Put right during the visit; no longer counts against the result.* As left: #o.as_left Retest: #o.retest#if o.certificates != "" [. Certificate #o.certificates]]
      #if o.mended and o.counts [ \ *Put right during the visit; it still counts until as left and retest are there.* #o.as_left #o.retest]
      #if o.told != "" [ \ #text(fill: quiet, o.told)]
      #if o.clause != "" [ \ #small(o.clause)]
    ]
    #if o.photos.len() > 0 { photos(o.photos) }
  ],
))

#let what-was-found = {
  [== What was found]
  if data.observations.len() == 0 [
    #data.none_found
  ] else {
    text(size: 8.5pt, fill: quiet, data.meaning.map(m => [*#m.code* #m.means]).join([ · ]))
    for (at, o) in data.observations.enumerate() {
      if o.building != "" and (at == 0 or data.observations.at(at - 1).building != o.building) {
        block(above: 4mm, below: 1mm, sticky: true, strong(o.building))
      }
      observation(o)
    }
  }
  block(above: 3mm)[*How the result follows.* #data.why]
  if data.next.by != "" [*Next inspection by #data.next.by.* #data.next.reason]
  parbreak()
  if data.duties.len() > 0 [
    *What the law is understood to ask of the landlord* (check the law that applies): #data.duties.join("; ").
  ]
}

#let asked = if data.concerns.len() > 0 [
  == What we were asked about
  #list(..data.concerns.map(c => [
    *#c.asked*#if c.by != "" [ (#c.by)] \ #if c.found != "" [#c.found] else [Not answered yet.]
  ]))
]

#let extent = {
  let limits = data.limitations + data.limited
  [
    == Extent and limitations
    *What we agreed to inspect.* #data.extent

    #if data.set_aside.len() > 0 [
      *Left disconnected, or left out, by agreement*
      #list(..data.set_aside.map(s => [*#s.name:* #s.says.#if s.why != "" [ #s.why.] #s.means]))
    ]

    *What we could not inspect, and why.*
    #if limits.len() == 0 [No limitations were recorded.] else [
      #list(..limits.map(l => [
        #l.what#if l.reason != "" [. Reason: #l.reason]#if l.agreed_with != "" [. Agreed with #l.agreed_with]
      ]))
    ]
    #if data.limited_warning != none [*#data.limited_warning*]

    #if data.sampling != none [*Points opened.* #data.sampling_plainly #data.sampling #data.sampling_drawn]

    #if data.unconfirmed.len() > 0 [
      *Taken from earlier papers and not confirmed on site:* #data.unconfirmed.join("; ").
    ]
    #if data.overrulings.len() > 0 [
      *Figures that the inspector judges otherwise than the rules used here*
      #list(..data.overrulings.map(o => [#o]))
    ]
  ]
}
