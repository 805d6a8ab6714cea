//! Winterlode's last twelve months: conversations in the words of enquirers that the model draws, and what became of
//! their leads. All names, firms, addresses and numbers are invented.

use jiff::{SignedDuration, Timestamp};
use lumbo_dialogue::talk::Context;
use lumbo_records::LeadStatus;
use lumbo_store::OutcomeChange;
use rand::rngs::StdRng;
use rand::seq::IndexedRandom;
use rand::{Rng, SeedableRng};

use super::model::{Enquiry, Role, Start};

/// Leads of the past that were closed as won, lost or not a fit.
pub const CLOSED: usize = 431;

/// A conversation of the past.
pub struct Visit {
    /// When it began.
    pub at: Timestamp,
    /// Where.
    pub context: Context,
    /// What was typed, in order.
    pub replies: Vec<String>,
    /// What became of the lead: the status and how long after.
    pub became: Vec<(OutcomeChange, SignedDuration)>,
}

const GIVEN: [&str; 40] = [
    "Ada", "Bram", "Ciara", "Dov", "Elif", "Femi", "Greta", "Hamish", "Ines", "Jarek", "Kezia", "Lorcan", "Mina",
    "Nadia", "Oskar", "Petra", "Quentin", "Rosa", "Stellan", "Tamsin", "Ulla", "Viktor", "Wren", "Yusuf", "Zofia",
    "Anouk", "Bea", "Colm", "Dagny", "Emrys", "Freya", "Gwil", "Hedda", "Ivo", "Jonna", "Kit", "Leif", "Maeve", "Nils",
    "Orla",
];
const FAMILY: [&str; 40] = [
    "Ashdown",
    "Birkett",
    "Carrow",
    "Dunmore",
    "Eastlake",
    "Farrant",
    "Garside",
    "Hallam",
    "Ingleby",
    "Jessop",
    "Kerrison",
    "Lowther",
    "Marchbank",
    "Netherby",
    "Oakshott",
    "Penrose",
    "Quarmby",
    "Ravenhill",
    "Selwood",
    "Tolland",
    "Underhay",
    "Varley",
    "Wetherall",
    "Yarrow",
    "Aldous",
    "Brandreth",
    "Coldbeck",
    "Daventry",
    "Ellwood",
    "Fothergill",
    "Greatorex",
    "Harcastle",
    "Ivinson",
    "Kettlewell",
    "Lambourne",
    "Mossman",
    "Northcote",
    "Ormerod",
    "Pickersgill",
    "Rookhope",
];
const FIRST: [&str; 30] = [
    "Alder", "Bramble", "Copper", "Dapple", "Ember", "Fallow", "Gorse", "Hollow", "Ivy", "Juniper", "Kestrel",
    "Lantern", "Meadow", "Nettle", "Orchard", "Pebble", "Quill", "Rowan", "Saffron", "Thistle", "Umber", "Violet",
    "Willow", "Yarrow", "Barley", "Clover", "Damson", "Elder", "Fennel", "Hawthorn",
];
const SECOND: [&str; 24] = [
    "Bakery",
    "Berries",
    "Butchers",
    "Creamery",
    "Dairy",
    "Desserts",
    "Dumplings",
    "Farm Foods",
    "Fisheries",
    "Fruit",
    "Gelato",
    "Greens",
    "Kitchens",
    "Larder",
    "Meals",
    "Pantry",
    "Pastry",
    "Pies",
    "Poultry",
    "Preserves",
    "Provisions",
    "Sauces",
    "Seafood",
    "Vegetables",
];
const PAGES: [(&str, u32); 5] =
    [("/storage", 48), ("/blast-freezing", 18), ("/prices", 16), ("/depots/aldermoor", 11), ("/chilled-haulage", 7)];
/// Name, source and medium.
type Campaign = (&'static str, &'static str, &'static str);
/// Campaigns with where they come from, and how often; most visits have none.
const CAMPAIGNS: [(Option<Campaign>, u32); 4] = [
    (None, 58),
    (Some(("harvest-space", "search", "cpc")), 22),
    (Some(("cold-chain-letter", "letter", "email")), 13),
    (Some(("food-makers-fair", "fair", "print")), 7),
];
const LOST: [&str; 6] = [
    "price",
    "stayed where they are",
    "chose somebody nearer",
    "no room in time",
    "project stopped",
    "no answer to the offer",
];

fn words<'a>(random: &mut StdRng, of: &[&'a str]) -> &'a str {
    of.choose(random).copied().unwrap_or_default()
}

fn weighted<T: Copy>(random: &mut StdRng, of: &[(T, u32)]) -> Option<T> {
    of.choose_weighted(random, |one| one.1).ok().map(|one| one.0)
}

/// A moment of a working day, evenly over the twelve months that end ten days before now.
fn moment(random: &mut StdRng, now: Timestamp) -> Timestamp {
    loop {
        let minutes = random.random_range(10 * 1_440..365 * 1_440);
        let at = now - SignedDuration::from_mins(minutes);
        let zoned = at.to_zoned(jiff::tz::TimeZone::UTC);
        let weekend = matches!(zoned.weekday(), jiff::civil::Weekday::Saturday | jiff::civil::Weekday::Sunday);
        let daytime = (7..20).contains(&zoned.hour());
        // Some write in the evening and at weekends.
        if (daytime && !weekend) || random.random_bool(0.12) {
            return at;
        }
    }
}

fn context(random: &mut StdRng) -> Context {
    let campaign = weighted(random, &CAMPAIGNS).flatten();
    Context {
        page: weighted(random, &PAGES).map(str::to_owned),
        device: Some(if random.random_bool(0.42) { "phone" } else { "computer" }.into()),
        campaign: campaign.map(|(name, _, _)| name.to_owned()),
        campaign_source: campaign.map(|(_, source, _)| source.to_owned()),
        campaign_medium: campaign.map(|(_, _, medium)| medium.to_owned()),
        ..Context::default()
    }
}

/// What an enquirer types, and their firm's place among the firms.
fn replies(random: &mut StdRng, enquiry: &Enquiry, number: usize) -> Vec<String> {
    let mut out = Vec::new();
    let mut say = |text: &str| out.push(text.to_owned());
    say(if enquiry.blast == Some(true) && random.random_bool(0.4) { "blast freezing" } else { "storage" });
    say(if enquiry.frozen {
        words(random, &["frozen", "Frozen", "deep freeze"])
    } else {
        words(random, &["chilled", "fridge"])
    });
    if let Some(blast) = enquiry.blast {
        say(if blast { words(random, &["yes", "yes please", "Yes"]) } else { words(random, &["no", "No", "nope"]) });
    }
    let count = enquiry.pallets;
    let about = ["", "about ", "roughly ", "around "];
    let unit = ["", " pallets"];
    say(&format!("{}{count}{}", words(random, &about), words(random, &unit)));
    if !(enquiry.frozen && count >= 200) {
        say(match enquiry.start {
            Some(Start::Soon) => words(random, &["within 8 weeks", "asap", "next month"]),
            Some(Start::HalfYear) => words(random, &["in a few months", "next quarter"]),
            Some(Start::Later) => words(random, &["later", "next year", "no hurry"]),
            None => ">skip",
        });
    }
    say(match enquiry.role {
        Some(Role::Owner) => words(random, &["owner", "director", "founder", "managing director"]),
        Some(Role::Manager) => words(random, &["manager", "operations manager", "logistics manager"]),
        Some(Role::Quotes) => words(random, &["gathering quotes", "comparing", "getting quotes"]),
        None => ">skip",
    });
    let (given, family) = (words(random, &GIVEN), words(random, &FAMILY));
    say(&format!("{given} {family}"));
    let firm = format!("{} {}", FIRST[number % FIRST.len()], SECOND[number / FIRST.len() % SECOND.len()]);
    say(&firm);
    if enquiry.address {
        let domain = firm.to_lowercase().replace(' ', "");
        say(&format!("{}@{domain}.example", given.to_lowercase()));
    } else {
        say("I have none");
    }
    if enquiry.phone {
        say(&format!("020 7946 0{:03}", random.random_range(0..1_000)));
    } else {
        say(">skip");
    }
    out
}

fn became(status: LeadStatus, reason: Option<&str>, amount: Option<u32>) -> OutcomeChange {
    OutcomeChange {
        revision: 0,
        status,
        reason: reason.map(str::to_owned),
        amount: amount.map(|amount| amount.to_string()),
        currency: amount.map(|_| "GBP".to_owned()),
        later_on: None,
    }
}

/// What became of a lead: a call within hours, the rest within weeks.
fn history(random: &mut StdRng, enquiry: &Enquiry, ends: LeadStatus) -> Vec<(OutcomeChange, SignedDuration)> {
    let called = SignedDuration::from_mins(random.random_range(4..600));
    let closed = SignedDuration::from_hours(random.random_range(20..9 * 24));
    let mut out = vec![(became(LeadStatus::Trying, None, None), called)];
    let end = match ends {
        LeadStatus::Won => {
            // A year of their pallets, at a price that differs from firm to firm.
            let amount = enquiry.pallets * random.random_range(150_u32..240);
            became(ends, None, Some(amount))
        }
        LeadStatus::Lost => became(ends, Some(words(random, &LOST)), None),
        LeadStatus::NotAFit => became(ends, Some("too little for a bay of their own"), None),
        LeadStatus::Junk => became(ends, Some("a test of somebody’s own"), None),
        _ => became(ends, None, None),
    };
    if matches!(ends, LeadStatus::Won | LeadStatus::Lost | LeadStatus::NotAFit) {
        out.push((became(LeadStatus::Spoken, None, None), called + SignedDuration::from_mins(7)));
    }
    out.push((end, closed));
    out
}

/// The past, in the order in which it took place.
pub fn past(random: &mut StdRng, now: Timestamp) -> Vec<Visit> {
    // Moments are drawn apart: which days are weekends must not change what anybody says.
    let mut moments = StdRng::seed_from_u64(365);
    let mut out = Vec::new();
    for number in 0..CLOSED {
        let enquiry = Enquiry::draw(random);
        let won = random.random_bool(enquiry.chance());
        let ends = match won {
            true => LeadStatus::Won,
            false if random.random_bool(0.12) => LeadStatus::NotAFit,
            false => LeadStatus::Lost,
        };
        let replies = replies(random, &enquiry, number);
        out.push(Visit {
            at: moment(&mut moments, now),
            context: context(random),
            replies,
            became: history(random, &enquiry, ends),
        });
    }
    // Leads of which nothing can be learnt, and conversations that were no lead.
    for number in 0..34 {
        let enquiry = Enquiry::draw(random);
        let ends = if number % 3 == 0 { LeadStatus::Junk } else { LeadStatus::NotReached };
        let replies = replies(random, &enquiry, CLOSED + number);
        out.push(Visit {
            at: moment(&mut moments, now),
            context: context(random),
            replies,
            became: history(random, &enquiry, ends),
        });
    }
    for _ in 0..90 {
        let replies: Vec<&str> = match random.random_range(0..10) {
            0..4 => vec!["I am a customer already"],
            4..8 => vec!["just looking"],
            8 => vec!["storage", "dry goods"],
            _ => vec!["storage", "chilled", "3"],
        };
        let replies = replies.into_iter().map(str::to_owned).collect();
        out.push(Visit { at: moment(&mut moments, now), context: context(random), replies, became: Vec::new() });
    }
    out.sort_by_key(|visit| visit.at);
    out
}
