"""What can hurt somebody, said in one place: gathered before a visit, and again at its step.

Common practice, no source. The manual, local codes and licensed practice come first.
"""

RUNNING = "Running engine indoors: exhaust extraction on. Oil and exhaust get hot."
STRAPPED = "Nobody goes under a bike that is not strapped. Not even for a minute."
TILTED = "Two hands or two people on it, nobody under it. Then strap it down again."
HOT_OIL = "Hot oil. Gloves and glasses. Used oil never goes to ground or drain."
SOLVENT = "Solvents near heat burn. Never petrol for cleaning."
WHEEL = "Exhaust extraction on. Keep hands off wheel and chain."
ESCAPED = "Oil on the exhaust burns. Oil on tyre or brake kills."
WASTE = "Waste oil and filters by local rules."
SPRING = "Fork cap under spring load: keep the face away, hold it down to the last thread."
AXLE = "Axle, brakes and bars: manual values, second signature."
GAS = "Shock under gas pressure: a specialist's work. Only look."
BRAKE = "Brake and clutch fluid: manual values, second signature."
TYRES = "Tyres: the manual's or the placard's pressures, second signature."
