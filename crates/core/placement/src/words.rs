//! Reasons as sentences; several stand side by side with commas between them.

use crate::choose::{Judged, Reason};
use crate::file::Parameter;
use crate::visit::Device;

fn parameter(parameter: &Parameter) -> String {
    match &parameter.is {
        Some(is) => format!("{} with “{is}”", parameter.name),
        None => parameter.name.clone(),
    }
}

fn days(count: u32) -> String {
    match count {
        0 => "today".into(),
        1 => "yesterday".into(),
        _ => format!("{count} days ago"),
    }
}

fn or_unknown(what: &str, found: Option<&str>) -> String {
    found.map_or_else(|| format!("the {what} is not known"), |found| format!("the {what} is {found}"))
}

impl std::fmt::Display for Reason {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let says = match self {
            Self::OffAir => "off air".into(),
            Self::OtherSite(site) => format!("{site} is not one of its sites"),
            Self::Excluded(pattern) => format!("the page is excluded by {pattern}"),
            Self::NotIncluded(path) => format!("{path} is not one of its pages"),
            Self::Included(pattern) => format!("the page fits {pattern}"),
            Self::EveryPage => "it shows on every page".into(),
            Self::Parameter(wanted) => format!("the address has {}", parameter(wanted)),
            Self::NoParameter(wanted) => format!("the address does not have {}", parameter(wanted)),
            Self::ExcludedParameter(wanted) => format!("the address has {}, which is excluded", parameter(wanted)),
            Self::Campaign(name) => format!("the campaign is {name}"),
            Self::OtherCampaign(None) => "the visit comes from no campaign".into(),
            Self::OtherCampaign(Some(name)) => format!("the campaign {name} is not one of its own"),
            Self::ExcludedCampaign(name) => format!("the campaign {name} is excluded"),
            Self::TooEarly(day) => format!("it begins on {}", day.strftime("%-d %B %Y")),
            Self::TooLate(day) => format!("it ended on {}", day.strftime("%-d %B %Y")),
            Self::Open => "within its hours".into(),
            Self::Closed(None) => "outside its hours".into(),
            Self::Closed(Some(at)) => format!("outside its hours until {}", at.strftime("%A %-d %B, %H:%M")),
            Self::Away => "outside its hours, with the away words".into(),
            Self::NoHours(key) => format!("the hours of “{key}” are not known"),
            Self::New => "a new visitor".into(),
            Self::Returning => "a returning visitor".into(),
            Self::NotNew => "the visitor was here before".into(),
            Self::NotReturning => "the visitor is not known to have been here before".into(),
            Self::SignedIn => "signed in".into(),
            Self::NotSignedIn => "not signed in".into(),
            Self::IsSignedIn => "the visitor is signed in".into(),
            Self::IsNotSignedIn => "the visitor is not signed in".into(),
            Self::Device(device) => format!("on a {}", device.name()),
            Self::OtherDevice(device) => or_unknown("device", device.map(Device::name)),
            Self::Language(tag) => format!("the language is {tag}"),
            Self::OtherLanguage(tag) => or_unknown("language", tag.as_deref()),
            Self::Country(code) => format!("the country is {code}"),
            Self::OtherCountry(code) => or_unknown("country", code.as_deref()),
            Self::NotFiled => "not filed yet".into(),
            Self::Filed(ago, within) => format!("filed {}, within {within} days", days(*ago)),
            Self::FiledLongAgo(ago) => format!("filed {}, long enough", days(*ago)),
            Self::InShare(share) => format!("within its {share}% of visitors"),
            Self::OutOfShare(share) => format!("outside its {share}% of visitors"),
            Self::ShareOfUnknown(share) => {
                format!("for {share}% of visitors, and this one has no id without consent")
            }
            Self::OnPhoneButton => "on a phone only the button".into(),
        };
        f.write_str(&says)
    }
}

impl Judged<'_> {
    /// Why it fits or does not, in words.
    #[must_use]
    pub fn says(&self) -> String {
        self.why.iter().map(ToString::to_string).collect::<Vec<_>>().join(", ")
    }
}
