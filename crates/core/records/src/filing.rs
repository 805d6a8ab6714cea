//! Which contact, company and lead a filing becomes, what changes on them, and whose the lead is.
//!
//! A contact is the one the site signed, else the one with the e-mail; a phone number alone proposes nobody. A company
//! is the one with the domain; a name alone makes none the same. Name, e-mail, phone and the company's name are
//! identity: where something else is on file, what this conversation says is kept beside it as "also given" until a
//! person accepts it, so that nobody renames another by typing their address. What only this conversation said, it may
//! correct. Every other field changes by its policy, and a missing answer changes nothing. The lead always shows what
//! its own conversation said.

use std::collections::BTreeMap;

use jiff::{SignedDuration, Timestamp};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::{LeadStatus, RecordField, Said, Standing, fold, merged};
use lumbo_route::{Carried, Chosen, Holder, NoTurn, Pick, Queue, Wanted, choose, given_back};
use lumbo_value::Value;
use lumbo_value::field::{Policy, Record};

/// An open lead of the same dialogue that was filed within this time is joined; after it a new one is filed.
pub const JOINED_WITHIN: SignedDuration = SignedDuration::from_hours(30 * 24);

/// Where a value on a record came from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Source {
    /// A conversation.
    Conversation(Uuid),
    /// A person of the workspace.
    Person(Uuid),
    /// A file that was taken in.
    File,
    /// Lumbo itself, or a customer system.
    System,
}

/// A value on a record, with where it came from.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Kept<T> {
    /// The value.
    pub value: T,
    /// Where it came from.
    pub source: Source,
}

/// A contact on file.
#[derive(Debug, Clone)]
pub struct ContactOnFile {
    /// Its id.
    pub id: Uuid,
    /// The person's name.
    pub name: Option<Kept<String>>,
    /// Their e-mail address.
    pub email: Option<Kept<String>>,
    /// Their phone number.
    pub phone: Option<Kept<String>>,
    /// Their company.
    pub company: Option<Uuid>,
    /// Other fields by id; one that an older version kept has no value to compare with.
    pub fields: BTreeMap<String, Kept<Option<Value>>>,
    /// True where it has leads of this conversation only.
    pub of_this_alone: bool,
}

/// A company on file.
#[derive(Debug, Clone)]
pub struct CompanyOnFile {
    /// Its id.
    pub id: Uuid,
    /// Its name.
    pub name: Option<Kept<String>>,
    /// What it is to us.
    pub standing: Standing,
    /// Who looks after it, by id and name; absent where they take no new leads or the rule decides even so.
    pub owner: Option<Holder>,
    /// Other fields by id.
    pub fields: BTreeMap<String, Kept<Option<Value>>>,
}

/// A lead on file.
#[derive(Debug, Clone)]
pub struct LeadOnFile {
    /// Its id.
    pub id: Uuid,
    /// Its contact.
    pub contact: Uuid,
    /// Its company.
    pub company: Option<Uuid>,
    /// The conversation whose answers it shows.
    pub shows: Uuid,
    /// Place of its band.
    pub rank: i32,
    /// Its status.
    pub status: LeadStatus,
    /// True once a person did something with it.
    pub touched: bool,
    /// Its queue.
    pub queue: Option<Uuid>,
    /// Its owner.
    pub owner: Option<Uuid>,
    /// The turn that was taken for it and not given back.
    pub turn: Option<Turn>,
    /// True where it was filed early, and nobody was chosen yet.
    pub undecided: bool,
    /// When it was filed.
    pub filed_at: Timestamp,
}

/// What is on file, read under the locks of the filing.
#[derive(Debug, Clone, Default)]
pub struct OnFile {
    /// The contact of the signed visitor, else of the e-mail.
    pub contact: Option<ContactOnFile>,
    /// The contact of the lead that this conversation filed before.
    pub own_contact: Option<ContactOnFile>,
    /// The company of the domain, else the contact's.
    pub company: Option<CompanyOnFile>,
    /// The company that this conversation made before its domain was known, and that nobody else has.
    pub own_company: Option<CompanyOnFile>,
    /// The lead that this conversation filed before, or joined.
    pub own: Option<LeadOnFile>,
    /// The newest open lead of the contact from the same dialogue.
    pub open: Option<LeadOnFile>,
    /// The queue that routing named, then those of its chain.
    pub chain: Vec<Queue>,
    /// What a rep must have, by the rule that held.
    pub skills: Vec<String>,
    /// Who has a lead of the contact that is open or was closed lately, or stands in for them; absent where they take
    /// no new leads or the rule decides even so.
    pub has_owner: Option<Holder>,
    /// Who has leads of the company that are open or were closed lately, the newest lead's owner first.
    pub company_owners: Vec<Uuid>,
}

/// The contact that a filing belongs to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ContactPlan {
    /// One on file.
    OnFile(Uuid),
    /// A new one.
    New,
}

/// The company that a filing belongs to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum CompanyPlan {
    /// None is known.
    None,
    /// One on file.
    OnFile(Uuid),
    /// A new one.
    New,
}

/// A change of one field of the contact or the company.
#[derive(Debug, Clone, PartialEq)]
pub struct FieldChange {
    /// The field as it is to be kept.
    pub field: RecordField,
    /// Its value.
    pub value: Value,
}

/// Something that differs from what is on file and waits for a person's word.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum AlsoGiven {
    /// Another name of the person.
    Name,
    /// Another e-mail address.
    Email,
    /// Another phone number.
    Phone,
    /// Another name of the firm.
    Company,
}

/// The lead that a filing belongs to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum LeadPlan {
    /// A new one.
    New,
    /// The one that this conversation filed or joined before.
    Own(Uuid),
    /// An open one of the contact, which this conversation joins.
    Joins(Uuid),
}

/// A turn of a queue's rotation that was taken or given back.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Turn {
    /// The queue.
    pub queue: Uuid,
    /// How far it moves each member's place.
    pub moved: Carried,
    /// Who was picked last; absent where a turn is given back.
    pub last: Option<Uuid>,
}

impl Turn {
    /// Gives it back.
    #[must_use]
    pub fn back(&self) -> Self {
        Self { queue: self.queue, moved: given_back(&self.moved), last: None }
    }
}

/// Whose the lead is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum OwnerPlan {
    /// It stays whose it is.
    Stays,
    /// It was filed early: its owner is chosen at the next filing, at the end of the conversation or after a silence.
    Later {
        /// The queue that will be asked; absent where no rule named one that there is.
        queue: Option<Uuid>,
    },
    /// It gets this queue and owner.
    Gets {
        /// The queue; absent where no rule named one that there is.
        queue: Option<Uuid>,
        /// The owner; absent where it waits in the queue.
        owner: Option<Uuid>,
        /// Turns that were taken and given back.
        turns: Vec<Turn>,
        /// What queues did, by their names.
        steps: Vec<(String, Pick)>,
        /// Whose it is before any queue was asked.
        had: Option<Had>,
        /// When it is dealt, where it waits for an opening.
        waits: Option<Timestamp>,
    },
}

/// Why no queue was asked.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Had {
    /// Somebody has a lead of the contact.
    Lead {
        /// Their name.
        name: String,
        /// Who stands in for them.
        deputy: Option<String>,
    },
    /// Somebody looks after the company.
    Account {
        /// Their name.
        name: String,
        /// Who stands in for them.
        deputy: Option<String>,
        /// The company's.
        company: String,
    },
    /// The company takes no turn of a rotation.
    NoTurn {
        /// Why not.
        why: NoTurn,
        /// The company's name.
        company: String,
    },
}

/// What a filing makes of it all.
#[derive(Debug, Clone, PartialEq)]
pub struct Filing {
    /// The contact.
    pub contact: ContactPlan,
    /// Identity to put on the contact, or to keep where it is new.
    pub puts: Vec<(AlsoGiven, String)>,
    /// The company.
    pub company: CompanyPlan,
    /// The domain to put on a company that this conversation named before it said one.
    pub domain: Option<String>,
    /// A company that only this conversation made, by its name, and that turned out to be one on file; it is taken out.
    pub takes_out_company: Option<Uuid>,
    /// Fields to change on contact and company.
    pub changes: Vec<FieldChange>,
    /// Identity that differs from what is on file.
    pub also_given: Vec<(AlsoGiven, String)>,
    /// A contact that only this conversation made, with an address it has corrected since; it is taken out.
    pub takes_out: Option<Uuid>,
    /// The lead.
    pub lead: LeadPlan,
    /// True where the lead shows what this conversation said; false where a higher band stands until a person accepts
    /// the newer answers.
    pub shows: bool,
    /// Whose it is.
    pub owner: OwnerPlan,
}

/// Decides what a filing becomes.
#[must_use]
pub fn plan_filing(said: &Said, on_file: &OnFile, now: Timestamp) -> Filing {
    let mine = |source: Source| source == Source::Conversation(said.conversation);
    // Who was filed before stays who they are, unless an address that was corrected since is somebody else's.
    let contact = match (&on_file.own_contact, &on_file.contact) {
        (Some(own), Some(other)) if own.id != other.id && own.of_this_alone => Some(other),
        (Some(own), _) => Some(own),
        (None, found) => found.as_ref(),
    };
    let takes_out = on_file
        .own_contact
        .as_ref()
        .filter(|own| own.of_this_alone && contact.is_some_and(|contact| contact.id != own.id))
        .map(|own| own.id);
    let company = on_file.company.as_ref().or(on_file.own_company.as_ref());
    let own_company = on_file.own_company.as_ref().map(|own| own.id);
    let takes_out_company = own_company.filter(|own| company.is_some_and(|company| company.id != *own));
    let domain = said.domain.clone().filter(|_| own_company.is_some() && takes_out_company.is_none());

    let mut puts = Vec::new();
    let mut also_given = Vec::new();
    // An address that is another contact's is never put on this one.
    let taken = on_file.contact.as_ref().is_some_and(|other| contact.is_some_and(|contact| contact.id != other.id));
    let mut put = |what: AlsoGiven, said: &Option<String>, kept: Option<&Kept<String>>| {
        let Some(text) = said else { return };
        match kept {
            _ if taken && what == AlsoGiven::Email => also_given.push((what, text.clone())),
            None => puts.push((what, text.clone())),
            Some(kept) if same(what, &kept.value, text) => {}
            Some(kept) if mine(kept.source) => puts.push((what, text.clone())),
            Some(_) => also_given.push((what, text.clone())),
        }
    };
    put(AlsoGiven::Name, &said.who.name, contact.and_then(|contact| contact.name.as_ref()));
    put(AlsoGiven::Email, &said.who.email, contact.and_then(|contact| contact.email.as_ref()));
    put(AlsoGiven::Phone, &said.who.phone, contact.and_then(|contact| contact.phone.as_ref()));
    put(AlsoGiven::Company, &said.who.company, company.and_then(|company| company.name.as_ref()));

    let none = BTreeMap::new();
    let changes = said
        .values
        .iter()
        .filter_map(|(field, value, policy)| {
            let on_record = match field.record {
                Record::Contact => contact.map_or(&none, |contact| &contact.fields),
                Record::Company => company.map_or(&none, |company| &company.fields),
                Record::Lead => return None,
            };
            let kept = on_record.get(&field.id);
            change(field, value, *policy, kept, kept.is_some_and(|kept| mine(kept.source)))
        })
        .collect();

    let open = on_file.open.as_ref().filter(|lead| {
        contact.is_some_and(|contact| contact.id == lead.contact)
            && lead.status.is_open()
            && now.duration_since(lead.filed_at) < JOINED_WITHIN
    });
    let (lead, before) = match (&on_file.own, open) {
        (Some(own), _) => (LeadPlan::Own(own.id), Some(own)),
        (None, Some(open)) => (LeadPlan::Joins(open.id), Some(open)),
        (None, None) => (LeadPlan::New, None),
    };
    // What was left unfinished never takes the place of what another conversation said to its end.
    let shows =
        before.is_none_or(|lead| lead.shows == said.conversation || (said.rank >= lead.rank && !said.unfinished));
    Filing {
        contact: contact.map_or(ContactPlan::New, |contact| ContactPlan::OnFile(contact.id)),
        company: match company {
            Some(company) => CompanyPlan::OnFile(company.id),
            None if said.domain.is_some() || said.who.company.is_some() => CompanyPlan::New,
            None => CompanyPlan::None,
        },
        domain,
        takes_out_company,
        puts,
        changes,
        also_given,
        takes_out,
        lead,
        shows,
        owner: owner(said, on_file, before, now),
    }
}

/// The same name, address or number, however it is written.
fn same(what: AlsoGiven, one: &str, other: &str) -> bool {
    match what {
        AlsoGiven::Phone => one == other,
        AlsoGiven::Name | AlsoGiven::Email | AlsoGiven::Company => fold(one) == fold(other),
    }
}

fn change(
    field: &RecordField,
    value: &Value,
    policy: Policy,
    kept: Option<&Kept<Option<Value>>>,
    mine: bool,
) -> Option<FieldChange> {
    let value = match kept {
        None => value.clone(),
        // What only this conversation said, it corrects, whatever the policy.
        Some(_) if mine => value.clone(),
        Some(Kept { value: Some(old), .. }) => merged(policy, old, value)?,
        Some(Kept { value: None, .. }) if policy == Policy::KeepFirst => return None,
        Some(Kept { value: None, .. }) => value.clone(),
    };
    let unchanged = kept.is_some_and(|kept| kept.value.as_ref() == Some(&value));
    (!unchanged).then(|| FieldChange { field: RecordField { value: value.to_json(), ..field.clone() }, value })
}

/// Whose a lead is before any queue is asked, and why: nobody's where the company takes no turn, else whoever has a
/// lead of the contact, else whoever looks after the company.
fn settled(said: &Said, on_file: &OnFile) -> Option<(Option<Uuid>, Had)> {
    let company = on_file.company.as_ref();
    let named = |company: &CompanyOnFile| {
        let on_file = company.name.as_ref().map(|name| name.value.clone());
        on_file.or_else(|| said.who.company.clone()).or_else(|| said.domain.clone()).unwrap_or_default()
    };
    if let Some((company, why)) = company.and_then(|company| Some((company, company.standing.no_turn()?))) {
        return Some((None, Had::NoTurn { why, company: named(company) }));
    }
    // Whose it is by right, and who has it in their place.
    let whose = |holder: &Holder| match holder.stands_in_for.clone() {
        Some(of) => (of, Some(holder.name.clone())),
        None => (holder.name.clone(), None),
    };
    if let Some(holder) = &on_file.has_owner {
        let (name, deputy) = whose(holder);
        return Some((Some(holder.person), Had::Lead { name, deputy }));
    }
    let company = company?;
    let holder = company.owner.as_ref()?;
    let (name, deputy) = whose(holder);
    Some((Some(holder.person), Had::Account { name, deputy, company: named(company) }))
}

/// Picks an owner for a new lead, and again for one that nobody touched where routing now names another queue; the turn
/// that was taken for it is then given back. One that is filed early waits for more.
fn owner(said: &Said, on_file: &OnFile, before: Option<&LeadOnFile>, now: Timestamp) -> OwnerPlan {
    let named = on_file.chain.first();
    let mut turns = Vec::new();
    let mut chain = std::borrow::Cow::Borrowed(&on_file.chain);
    if said.early {
        let queue = named.map(|queue| queue.id);
        return if before.is_some() { OwnerPlan::Stays } else { OwnerPlan::Later { queue } };
    }
    if let Some(lead) = before {
        let other = named.is_some_and(|queue| lead.queue != Some(queue.id));
        // One that was filed early is chosen for by its own conversation, though it shows another's answers by now.
        let own = on_file.own.as_ref().is_some_and(|own| own.id == lead.id);
        let moves = (lead.undecided && own) || (other && lead.shows == said.conversation);
        if lead.touched || !moves {
            return OwnerPlan::Stays;
        }
        if let Some(back) = lead.turn.as_ref().map(Turn::back) {
            // A queue that is asked again is asked as if the turn had never been taken.
            chain
                .to_mut()
                .iter_mut()
                .filter(|queue| queue.id == back.queue)
                .for_each(|queue| queue.move_by(&back.moved));
            turns.push(back);
        }
    }
    if let Some((owner, had)) = settled(said, on_file) {
        // Who takes no turn stands in no queue either.
        let queue = named.map(|queue| queue.id).filter(|_| owner.is_some());
        return OwnerPlan::Gets { queue, owner, turns, steps: Vec::new(), had: Some(had), waits: None };
    }
    let wanted = Wanted { now, skills: &on_file.skills, company: &on_file.company_owners };
    let Some(Chosen { queue, picked, steps }) = choose(&chain, &wanted) else {
        return OwnerPlan::Gets { queue: None, owner: None, turns, steps: Vec::new(), had: None, waits: None };
    };
    let id = chain[queue].id;
    if let (Some(owner), Some(carried)) = (picked.owner, picked.carried) {
        turns.push(Turn { queue: id, moved: chain[queue].moved(&carried), last: Some(owner) });
    }
    let steps = steps.into_iter().map(|(place, pick)| (chain[place].name.clone(), pick)).collect();
    OwnerPlan::Gets { queue: Some(id), owner: picked.owner, turns, steps, had: None, waits: picked.waits }
}
