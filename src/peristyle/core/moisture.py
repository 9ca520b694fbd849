"""How damp wood comes to be in air that stays as it is."""


def equilibrium_percent(temperature_c: float, humidity_percent: float) -> float:
    """Moisture content (% of dry wood) that wood settles at, in air of a temperature (°C) and relative humidity (%).

    Source: Wood Handbook (US Forest Products Laboratory, FPL-GTR-282, 2021), chapter 4, the equation for equilibrium
    moisture content; its constants are from memory.
    """
    t, h = temperature_c, min(humidity_percent, 99.9) / 100
    w = 349 + 1.29 * t + 0.0135 * t**2
    k = 0.805 + 0.000736 * t - 0.00000273 * t**2
    k1 = 6.27 - 0.00938 * t - 0.000303 * t**2
    k2 = 1.91 + 0.0407 * t - 0.000293 * t**2
    kh = k * h
    return 1800 / w * (kh / (1 - kh) + (k1 * kh + 2 * k1 * k2 * kh**2) / (1 + k1 * kh + k1 * k2 * kh**2))
