"""A plane steered by its motors, for whoever tests what thrust does."""

from ridgeline.design.paths import Change, apply
from ridgeline.design.radio import Amount


def twin(plane, amount=0.35):
    """A plane with two motors, their throttles mixed with the rudder stick."""
    mount = plane.power.mounts[0].model_copy(update={"y": 0.3, "mirrored": True})
    throttle = next(k for k, c in enumerate(plane.radio.channels) if any(p.stick == "throttle" for p in c.mix))
    channel = plane.radio.channels[throttle]
    pair = tuple(
        channel.model_copy(update={"id": f"h9{k}", "side": side,
                                   "mix": (Amount(stick="throttle"), Amount(stick="yaw", amount=way * amount))})
        for k, (side, way) in enumerate((("starboard", -1), ("port", 1)))
    )  # fmt: skip
    others = tuple(c for k, c in enumerate(plane.radio.channels) if k != throttle)
    return apply(plane, [Change("power.mounts", (mount,)), Change("radio.channels", (*others, *pair))])
