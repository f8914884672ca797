"""The club's art, drawn here as SVG: each one has something that makes it hard to cut.

Every function returns the body of a drawing on a canvas of 200 × 200 units.
"""

import math

INK = "#22303A"
SEA = "#2F6F86"
PALE = "#DCE8EA"
SAND = "#E9D9B8"
BUOY = "#D9622B"
RED = "#B43A2E"
WEED = "#4E8A4A"
ROPE = "#C99B57"


def _path(d: str, fill: str, stroke: str = "none", width: float = 0.0) -> str:
    if stroke == "none":
        # Neighbouring shapes overlap by a hair, or the ground would shine through between them.
        stroke, width = fill, 0.8
    return (
        f'<path d="{d}" fill="{fill}" stroke="{stroke}" stroke-width="{width}" '
        'stroke-linejoin="round" stroke-linecap="round"/>'
    )


def seabird() -> str:
    """A seabird in flight: deep concave corners between wings, tail and neck."""
    wing_up = "M92 104 C84 78 66 48 30 18 C62 26 98 44 116 84 Z"
    wing_down = "M104 110 C118 132 138 158 176 178 C146 176 104 158 82 124 Z"
    body = "M38 142 C62 118 92 98 124 88 C142 82 158 80 166 84 C160 96 146 106 126 114 C100 124 70 136 38 142 Z"
    return "".join(
        (
            _path("M44 138 L14 150 L40 152 L30 168 L58 146 Z", "#5C7385"),
            _path(wing_up, "#8FA7B6"),
            _path("M30 18 C52 36 70 58 80 84 L62 62 C52 46 42 32 30 18 Z", "#5C7385"),
            _path(wing_down, "#AFC2CC"),
            _path("M176 178 C152 166 132 148 118 130 L136 142 C150 154 164 166 176 178 Z", "#5C7385"),
            _path(body, "#F3F5F3"),
            _path("M60 130 C86 112 116 98 150 92 C136 106 98 122 60 130 Z", "#DCE4E6"),
            '<circle cx="152" cy="88" r="15" fill="#F6EFD9"/>',
            _path("M163 84 L196 92 L164 97 Z", BUOY),
            '<circle cx="156" cy="86" r="3.4" fill="#22303A"/>',
        )
    )


def lighthouse() -> str:
    """A lighthouse: tall and thin, with a gallery that sticks out."""
    bands = "".join(
        _path(
            f"M{78 + 2.2 * n:.1f} {170 - 24 * n} L{122 - 2.2 * n:.1f} {170 - 24 * n} "
            f"L{119.8 - 2.2 * n:.1f} {146 - 24 * n} L{80.2 + 2.2 * n:.1f} {146 - 24 * n} Z",
            RED if n % 2 == 0 else "#F6F1E6",
        )
        for n in range(5)
    )
    return "".join(
        (
            _path("M52 190 C60 170 78 166 100 166 C122 166 140 170 148 190 Z", "#66705F"),
            bands,
            _path("M82 50 L118 50 L122 42 L78 42 Z", INK),
            _path("M88 42 L88 24 L112 24 L112 42 Z", "#F4C64E"),
            _path("M99 42 L99 24 L101 24 L101 42 Z", INK),
            _path("M84 25 C88 14 94 10 100 8 C106 10 112 14 116 25 Z", RED),
            _path("M98 10 L98 2 L102 2 L102 10 Z", INK),
            _path("M94 126 L94 116 C94 110 106 110 106 116 L106 126 Z", INK),
            _path("M96 170 L96 152 C96 146 104 146 104 152 L104 170 Z", INK),
        )
    )


def buoy() -> str:
    """A life buoy: round, with a hole in the middle."""
    wedges = []
    for n in range(4):
        a0, a1 = math.radians(90 * n + 22), math.radians(90 * n + 68)
        outer = [(100 + 88 * math.cos(a), 100 + 88 * math.sin(a)) for a in (a0, a1)]
        inner = [(100 + 44 * math.cos(a), 100 + 44 * math.sin(a)) for a in (a1, a0)]
        wedges.append(
            _path(
                f"M{outer[0][0]:.2f} {outer[0][1]:.2f} A88 88 0 0 1 {outer[1][0]:.2f} {outer[1][1]:.2f} "
                f"L{inner[0][0]:.2f} {inner[0][1]:.2f} A44 44 0 0 0 {inner[1][0]:.2f} {inner[1][1]:.2f} Z",
                "#F7F1E4",
            )
        )
    ring = "M100 12 A88 88 0 1 1 99.9 12 Z M100 56 A44 44 0 1 0 100.1 56 Z"
    return "".join(
        (
            f'<path d="{ring}" fill="{BUOY}" fill-rule="evenodd"/>',
            *wedges,
            '<circle cx="100" cy="100" r="86" fill="none" stroke="#22303A" stroke-width="4"/>',
            '<circle cx="100" cy="100" r="46" fill="none" stroke="#22303A" stroke-width="4"/>',
        )
    )


def kelp() -> str:
    """A kelp frond: a thin stalk with thin leaves, many of them fingers."""
    leaves = []
    for n in range(9):
        t = n / 8
        x, y = 46 + 108 * t + 14 * math.sin(5 * t), 178 - 150 * t
        side = 1 if n % 2 else -1
        turn = -50 + side * 58 - 12 * t
        leaves.append(
            f'<g transform="translate({x:.1f} {y:.1f}) rotate({turn:.1f})">'
            + _path("M0 0 C10 -13 34 -13 46 0 C34 11 12 11 0 0 Z", WEED)
            + _path("M3 0 L38 0", "none", "#3A6B3C", 2)
            + "</g>"
        )
    stalk = "M40 190 C52 172 58 152 82 124 C104 98 128 84 140 56 C146 42 150 30 158 18"
    # The last leaves reach past the drawing's rim at full size.
    return f'<g transform="translate(10 22) scale(0.88)">{_path(stalk, "none", "#3A6B3C", 7)}{"".join(leaves)}</g>'


def rope() -> str:
    """A coil of rope: two rings with real holes and a loose end."""

    def ring(cx: float, cy: float, r: float) -> str:
        twists = "".join(
            _path(
                f"M{cx + (r - 8) * math.cos(a):.1f} {cy + (r - 8) * math.sin(a):.1f} "
                f"L{cx + (r + 8) * math.cos(a + 0.22):.1f} {cy + (r + 8) * math.sin(a + 0.22):.1f}",
                "none",
                "#9A6F35",
                3,
            )
            for a in (2 * math.pi * n / 22 for n in range(22))
        )
        return f'<circle cx="{cx}" cy="{cy}" r="{r}" fill="none" stroke="{ROPE}" stroke-width="19"/>' + twists

    tail = _path("M62 128 L30 160 C24 168 28 176 38 182 L56 188", "none", ROPE, 17)
    return tail + ring(86, 98, 50) + ring(136, 70, 34)


def oyster() -> str:
    """An oyster: a rough shell, nearly round."""

    def shell(scale: float, wobble: float, phase: float) -> str:
        points = []
        for n in range(60):
            a = 2 * math.pi * n / 60
            r = (
                scale
                * (84 + wobble * math.sin(5 * a + phase) + 0.5 * wobble * math.sin(9 * a))
                * (1 - 0.12 * math.cos(a))
            )
            points.append(f"{100 + r * math.cos(a):.1f} {100 + 0.84 * r * math.sin(a):.1f}")
        return "M" + " L".join(points) + " Z"

    return "".join(
        (
            _path(shell(1.0, 6, 0.4), "#6F7478", "#565B60", 3),
            _path(shell(0.86, 5, 0.7), "#A9AEB2"),
            _path(shell(0.7, 5, 1.1), "#DDE0E3"),
            _path(shell(0.5, 4, 1.4), "#F1F0EF"),
            '<circle cx="84" cy="90" r="11" fill="#FBF7F0" stroke="#D5CBC0" stroke-width="1.5"/>',
        )
    )


def paddles() -> str:
    """Two crossed paddles: a cross of thin shafts, four deep corners."""

    def paddle(turn: float, blade: str) -> str:
        return (
            f'<g transform="rotate({turn} 100 100)">'
            + _path("M97 30 L103 30 L103 160 L97 160 Z", "#B98447")
            + _path("M88 24 L112 24 L112 31 L88 31 Z", "#8C5F2E")
            + _path("M97 132 C84 140 82 158 84 176 C86 192 114 192 116 176 C118 158 116 140 103 132 Z", blade)
            + _path("M99 138 L101 138 L101 184 L99 184 Z", "#F6F1E6")
            + "</g>"
        )

    return paddle(42, SEA) + paddle(-42, RED)


_GLYPHS = {
    "R": "M0 60 L0 0 L22 0 C44 0 44 33 24 34 L42 60 L28 60 L12 36 L12 60 Z M12 10 L12 25 L21 25 C30 25 30 10 21 10 Z",
    "E": "M0 0 L38 0 L38 11 L12 11 L12 24 L34 24 L34 35 L12 35 L12 49 L38 49 L38 60 L0 60 Z",
    "A": "M0 60 L18 0 L30 0 L48 60 L36 60 L32 46 L16 46 L12 60 Z M19 36 L29 36 L24 17 Z",
    "C": "M42 44 C38 56 30 60 22 60 C-6 60 -6 0 22 0 C32 0 38 6 42 16 L31 20 C25 4 12 10 12 30 C12 50 25 56 31 40 Z",
    "H": "M0 0 L12 0 L12 24 L32 24 L32 0 L44 0 L44 60 L32 60 L32 35 L12 35 L12 60 L0 60 Z",
}


def lettering() -> str:
    """REACH, in five letters that would each come off by itself."""
    steps = {"R": 50, "E": 46, "A": 54, "C": 50, "H": 50}
    x, letters = 4.0, []
    for n, letter in enumerate("REACH"):
        dy = 70 - 10 * math.sin(math.pi * n / 4)
        letters.append(
            f'<path d="{_GLYPHS[letter]}" fill="{SEA}" fill-rule="evenodd" '
            f'transform="translate({x * 0.78:.1f} {dy:.1f}) scale(0.76)"/>'
        )
        x += steps[letter]
    return "".join(letters)


def tide_label() -> str:
    """A tide-table label: a card with waves and lines for handwriting, opaque to its rim."""
    waves = "".join(
        _path(
            f"M0 {54 + 12 * n} Q12.5 {46 + 12 * n} 25 {54 + 12 * n} T50 {54 + 12 * n} T75 {54 + 12 * n} "
            f"T100 {54 + 12 * n} T125 {54 + 12 * n} T150 {54 + 12 * n} T175 {54 + 12 * n} T200 {54 + 12 * n} "
            "L200 200 L0 200 Z",
            colour,
        )
        for n, colour in enumerate(("#9CC3CC", "#6FA6B4", SEA))
    )
    lines = "".join(
        f'<rect x="22" y="{112 + 26 * n}" width="156" height="16" rx="3" fill="#FFFDF8"/>' for n in range(3)
    )
    sun = '<circle cx="150" cy="34" r="18" fill="#F0B93E"/>'
    return f'<rect width="200" height="200" fill="{SAND}"/>' + sun + waves + lines


def harbour_set() -> str:
    """Six small drawings on one sheet, as they are bought: they belong apart."""
    fish = _path("M0 20 C14 2 38 2 52 18 L66 6 L66 34 L52 22 C38 38 14 38 0 20 Z", SEA)
    anchor = "".join(
        (
            _path("M20 14 L26 14 L26 46 L20 46 Z", INK),
            _path("M8 22 L38 22 L38 27 L8 27 Z", INK),
            _path("M2 36 C6 54 40 54 44 36 L37 40 C34 47 12 47 9 40 Z", INK),
            '<circle cx="23" cy="9" r="7" fill="none" stroke="#22303A" stroke-width="4"/>',
        )
    )
    star = _path("M25 0 L31 18 L50 18 L35 29 L41 48 L25 36 L9 48 L15 29 L0 18 L19 18 Z", "#E0A23A")
    flag = _path("M2 0 L7 0 L7 56 L2 56 Z", "#6B4A2C") + _path("M6 4 L48 14 L6 28 Z", RED)
    boat = _path("M0 34 L60 34 L48 50 L12 50 Z", RED) + _path("M28 0 L32 36 L4 32 Z", PALE)
    shell = _path("M26 48 C0 40 -2 8 26 2 C54 8 52 40 26 48 Z", SAND) + _path("M26 6 L26 44", "none", "#B98447", 2)
    drawings = (fish, anchor, star, flag, boat, shell)
    places = ((6, 20), (82, 8), (142, 8), (12, 118), (72, 122), (146, 120))
    return "".join(
        f'<g transform="translate({x} {y}) scale(0.84)">{d}</g>' for d, (x, y) in zip(drawings, places, strict=True)
    )


def lantern() -> str:
    """A lantern in its own glow: where it ends is a guess."""
    glow = (
        '<defs><radialGradient id="g"><stop offset="0.35" stop-color="#F4C64E" stop-opacity="0.95"/>'
        '<stop offset="1" stop-color="#F4C64E" stop-opacity="0"/></radialGradient></defs>'
        '<circle cx="100" cy="100" r="96" fill="url(#g)"/>'
    )
    body = "".join(
        (
            _path("M78 66 L122 66 L126 140 L74 140 Z", "#FFF3C4"),
            _path("M70 138 L130 138 L130 150 L70 150 Z", INK),
            _path("M72 68 L128 68 L116 52 L84 52 Z", INK),
            _path("M97 68 L103 68 L103 138 L97 138 Z", INK),
        )
    )
    return glow + body


def pennant() -> str:
    """A pennant that already has a white border of even width."""
    shape = "M30 44 L172 96 L30 156 Z"
    return "".join(
        (
            f'<path d="{shape}" fill="#FDFDFB" stroke="#FDFDFB" stroke-width="26" stroke-linejoin="round"/>',
            _path(shape, SEA),
            _path("M30 84 L142 96 L30 116 Z", "#F4C64E"),
        )
    )


def bow_wave() -> str:
    """A bow wave with spray: drops too small to be cut round, and whiskers too thin to hold."""
    drops = "".join(
        f'<circle cx="{60 + 17 * n % 120}" cy="{28 + 23 * n % 46}" r="{0.5 + 0.06 * n:.2f}" fill="{SEA}"/>'
        for n in range(9)
    )
    wave = _path("M8 170 C40 168 52 96 120 92 C150 90 170 108 168 126 C150 108 118 116 112 150 L192 170 Z", SEA)
    whisker = _path("M150 100 C164 84 176 72 192 66", "none", SEA, 1.2)
    return drops + wave + whisker


def race_number(number: int) -> str:
    """A number plate whose lettering asks for a font of its own."""
    return (
        f'<rect x="20" y="50" width="160" height="100" rx="18" fill="#F4C64E"/>'
        f'<text x="100" y="126" font-family="Gannet Stencil" font-size="74" text-anchor="middle" fill="{INK}">'
        f"{number}</text>"
    )


def burgee() -> str:
    """The club's burgee in three flat colours, to be cut from coloured vinyl, one colour a sheet."""
    drawn = (
        _path("M4 20 L116 60 L4 100 Z", "#1F4E79")
        + _path("M4 50 L88 50 L88 50 L116 60 L88 70 L4 70 Z", "#B3372B")
        + '<circle cx="36" cy="60" r="17" fill="#E3B23C"/>'
        + _path("M36 47 L39.5 56 L49 56.5 L41.5 62.5 L44 72 L36 66.5 L28 72 L30.5 62.5 L23 56.5 L32.5 56 Z", "#1F4E79")
    )
    return f'<g transform="translate(3 3) scale(1.62)">{drawn}</g>'


def svg(body: str, size_mm: float = 60.0) -> bytes:
    """A whole drawing."""
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{size_mm:g}mm" height="{size_mm:g}mm" '
        f'viewBox="0 0 200 200">{body}</svg>'
    ).encode()
