"""What is typed or chosen of a linkage in the margin: the fields of the document by the words a builder knows."""

from __future__ import annotations

FACINGS = (("out", "outboard"), ("in", "inboard"), ("up", "up"), ("down", "down"))
PORTS = (
    ("mirrored", "own servo, mirrored"), ("alike", "own servo, same way round"), ("joined", "moved with it"),
    ("opposed", "moved against it"),
)  # fmt: skip
KINDS = (
    ("rod", "a rod"), ("pull_pull", "two lines"), ("spring_line", "a line and a spring"),
    ("torque_rod", "a rod that twists"), ("direct", "the servo itself"),
)  # fmt: skip
HINGES = (
    ("tape", "tape"), ("fold", "its own paper"), ("fillet", "a bead of glue"), ("silicone", "silicone"),
    ("printed", "a printed strip"), ("rod", "wire in tube"), ("sewn", "thread"),
)  # fmt: skip
#: Label and field: lengths that are dragged too; what one kind of linkage has; and what is set once.
LENGTHS = (
    ("Arm hole", "arm"),
    ("Horn hole", "horn"),
    ("Arm ahead of square, teeth", "clocked"),
    ("Horn's hole ahead of the hinge", "horn_ahead"),
    ("Servo ahead of the hinge", "ahead"),
    ("Servo over the hinge", "up"),
)
OF_KIND = {
    "pull_pull": (("Pull of the lines", "preload"),),
    "spring_line": (("Pull at neutral", "preload"), ("Spring", "spring")),
}
FINER = (
    ("Teeth of its spline", "teeth"),
    ("Travel each way", "travel"),
    ("Arm lengthened by", "extension"),
    ("Horn's base", "base"),
    ("Rod, thick", "rod_size"),
    ("Guides every", "guides"),
    ("Play in each hole", "hole_play"),
    ("Play of its gears", "gear_play"),
    ("Gap at the hinge", "hinge.gap"),
)
