// A firm's logo at the head of its paper; nothing where it has none.
#let logo(firm) = if firm.at("logo", default: "") != "" {
  block(below: 2.5mm, image(
    bytes(firm.logo), format: "svg", width: 60mm, height: 13mm, fit: "contain", alt: "Logo of " + firm.name,
  ))
}
