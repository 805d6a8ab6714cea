//! Contrast by WCAG 2.2's formula, and the author's colour moved in lightness until it can be read.

use serde::Serialize;

/// Least contrast of text (WCAG 2.2, success criterion 1.4.3).
pub const TEXT: f64 = 4.5;

/// The darkest ground of the prospect's page by day.
pub const DAY: Colour = Colour { red: 0xf5, green: 0xf2, blue: 0xea };
/// The lightest ground of the prospect's page by night.
pub const NIGHT: Colour = Colour { red: 0x1b, green: 0x24, blue: 0x24 };
const WHITE: Colour = Colour { red: 255, green: 255, blue: 255 };
const INK: Colour = Colour { red: 0x11, green: 0x18, blue: 0x19 };

/// A colour of sRGB.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Colour {
    /// 0 to 255.
    pub red: u8,
    /// 0 to 255.
    pub green: u8,
    /// 0 to 255.
    pub blue: u8,
}

impl std::fmt::Display for Colour {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "#{:02x}{:02x}{:02x}", self.red, self.green, self.blue)
    }
}

impl Colour {
    /// Reads `#1f5e8c`, `1F5E8C` or `#15c`.
    #[must_use]
    pub fn parse(text: &str) -> Option<Self> {
        let digits = text.trim().strip_prefix('#').unwrap_or(text.trim());
        if !digits.bytes().all(|byte| byte.is_ascii_hexdigit()) {
            return None;
        }
        let whole = match digits.len() {
            6 => digits.to_owned(),
            3 => digits.chars().flat_map(|digit| [digit, digit]).collect(),
            _ => return None,
        };
        let part = |at: usize| u8::from_str_radix(&whole[at..at + 2], 16).ok();
        Some(Self { red: part(0)?, green: part(2)?, blue: part(4)? })
    }

    /// Relative luminance, 0 to 1 (WCAG 2.2, definitions).
    #[must_use]
    pub fn luminance(self) -> f64 {
        let part = |value: u8| {
            let value = f64::from(value) / 255.0;
            if value <= 0.04045 { value / 12.92 } else { ((value + 0.055) / 1.055).powf(2.4) }
        };
        0.2126 * part(self.red) + 0.7152 * part(self.green) + 0.0722 * part(self.blue)
    }

    /// Contrast ratio, 1 to 21 (WCAG 2.2, definitions).
    #[must_use]
    pub fn contrast(self, other: Self) -> f64 {
        let (a, b) = (self.luminance(), other.luminance());
        (a.max(b) + 0.05) / (a.min(b) + 0.05)
    }

    /// The same colour, lighter or darker until it stands out from the ground by at least so much. Hue and saturation
    /// stay (HSL), so it is still theirs.
    #[must_use]
    pub fn against(self, ground: Self, least: f64) -> Self {
        if self.contrast(ground) >= least {
            return self;
        }
        let (hue, saturation, lightness) = self.hsl();
        let darker = ground.luminance() > 0.18;
        let far = if darker { 0.0 } else { 1.0 };
        // Halving: the nearest lightness that is enough. Luminance rises with lightness where the rest stays.
        let (mut good, mut bad) = (far, lightness);
        for _ in 0..16 {
            let middle = f64::midpoint(good, bad);
            if Self::of_hsl(hue, saturation, middle).contrast(ground) >= least { good = middle } else { bad = middle }
        }
        Self::of_hsl(hue, saturation, good)
    }

    fn hsl(self) -> (f64, f64, f64) {
        let [r, g, b] = [self.red, self.green, self.blue].map(|part| f64::from(part) / 255.0);
        let (most, least) = (r.max(g).max(b), r.min(g).min(b));
        let (lightness, span) = (f64::midpoint(most, least), most - least);
        if span == 0.0 {
            return (0.0, 0.0, lightness);
        }
        let saturation = span / (1.0 - (2.0 * lightness - 1.0).abs());
        let sixth = if most == r {
            ((g - b) / span).rem_euclid(6.0)
        } else if most == g {
            (b - r) / span + 2.0
        } else {
            (r - g) / span + 4.0
        };
        (sixth, saturation, lightness)
    }

    fn of_hsl(sixth: f64, saturation: f64, lightness: f64) -> Self {
        let span = (1.0 - (2.0 * lightness - 1.0).abs()) * saturation;
        let second = span * (1.0 - (sixth.rem_euclid(2.0) - 1.0).abs());
        let (r, g, b) = match sixth as u8 {
            0 => (span, second, 0.0),
            1 => (second, span, 0.0),
            2 => (0.0, span, second),
            3 => (0.0, second, span),
            4 => (second, 0.0, span),
            _ => (span, 0.0, second),
        };
        let least = lightness - span / 2.0;
        let part = |value: f64| ((value + least) * 255.0).round().clamp(0.0, 255.0) as u8;
        Self { red: part(r), green: part(g), blue: part(b) }
    }
}

/// Colours of a placement, each with enough contrast where it is used.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Palette {
    /// The button's ground: the author's colour itself.
    pub button: Colour,
    /// What stands on it.
    pub on_button: Colour,
    /// Contrast of the two.
    pub ratio: f64,
    /// Text and edges in the author's colour by day.
    pub day: Colour,
    /// The same by night.
    pub night: Colour,
    /// What stands on the night's colour where it is a ground.
    pub on_night: Colour,
    /// What stands on the day's colour where it is a ground.
    pub on_day: Colour,
}

impl Serialize for Colour {
    fn serialize<S: serde::Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_str(self)
    }
}

/// White or near-black, whichever stands out more.
fn on(ground: Colour) -> Colour {
    if WHITE.contrast(ground) >= TEXT || WHITE.contrast(ground) >= INK.contrast(ground) { WHITE } else { INK }
}

impl Palette {
    /// The colours that an author's colour gives.
    #[must_use]
    pub fn of(colour: Colour) -> Self {
        let letters = on(colour);
        // Of a few middle tones neither white nor ink stands out enough; then the ground moves.
        let button = colour.against(letters, TEXT);
        let (day, night) = (colour.against(DAY, TEXT), colour.against(NIGHT, TEXT));
        Self {
            button,
            on_button: letters,
            ratio: button.contrast(letters),
            day,
            night,
            on_night: on(night),
            on_day: on(day),
        }
    }
}
