//! A value from the JSON form that the command line and records use.

use rust_decimal::Decimal;

use super::consent;
use lumbo_value::{Field, FieldType};
use lumbo_value::{Number, Value};

/// Reads a value from the JSON form that the command line and records use.
///
/// # Errors
/// A sentence that says what was expected for the type.
pub fn from_json(field: &Field, json: &serde_json::Value) -> Result<Value, String> {
    use serde_json::Value as Json;
    let decimal =
        |text: &str| text.parse::<Decimal>().map_err(|_| format!("{}: “{text}” is not a decimal number", field.key));
    match (field.kind, json) {
        (FieldType::Choice | FieldType::Scale, Json::String(key)) if field.kind == FieldType::Choice => {
            if field.options.iter().any(|option| option.key == *key) {
                Ok(Value::choice(key.clone()))
            } else {
                Err(format!("{}: there is no option “{key}”", field.key))
            }
        }
        (FieldType::WholeNumber | FieldType::Scale, Json::String(text)) => Ok(Value::number(decimal(text)?)),
        (FieldType::WholeNumber | FieldType::Scale, Json::Number(number)) => {
            Ok(Value::number(decimal(&number.to_string())?))
        }
        (FieldType::WholeNumber | FieldType::Quantity, Json::Object(map)) => {
            let get = |key: &str| map.get(key).and_then(Json::as_str).map(decimal).transpose();
            let amount = get("amount")?.ok_or_else(|| format!("{}: amount is missing", field.key))?;
            let unit = map.get("unit").and_then(Json::as_str).map(str::to_owned);
            Ok(Value::Number(Number { amount, low: get("low")?, high: get("high")?, unit }))
        }
        (FieldType::Money, Json::Object(map)) => {
            let text = |key: &str| {
                map.get(key).and_then(Json::as_str).ok_or_else(|| format!("{}: {key} is missing", field.key))
            };
            Ok(Value::Money { amount: decimal(text("amount")?)?, currency: text("currency")?.to_owned() })
        }
        (FieldType::YesNo, Json::Bool(yes)) => Ok(Value::YesNo { yes: *yes }),
        (FieldType::Consent, Json::Bool(given)) => Ok(consent::answered(*given)),
        (FieldType::Date, Json::Object(_) | Json::String(_)) => {
            let text = json.as_str().or_else(|| json.get("date").and_then(Json::as_str)).unwrap_or_default();
            let date = text.parse().map_err(|_| format!("{}: “{text}” is not a date like 2027-01-05", field.key))?;
            let precision = json
                .get("precision")
                .and_then(|found| serde_json::from_value(found.clone()).ok())
                .unwrap_or(lumbo_value::Precision::Day);
            Ok(Value::Date { date, precision })
        }
        (FieldType::PersonName, Json::String(full)) => Ok(Value::Name(super::split_name(full))),
        (FieldType::Phone, Json::String(number)) => Ok(Value::Phone { number: number.clone(), extension: None }),
        (FieldType::PersonName, Json::Object(_)) => serde_json::from_value(json.clone())
            .map(Value::Name)
            .map_err(|_| format!("{}: a name is {{\"given\", \"family\", \"full\"}}", field.key)),
        (FieldType::Choices | FieldType::List, Json::Array(items)) => {
            let items: Option<Vec<String>> = items.iter().map(|item| item.as_str().map(str::to_owned)).collect();
            let items = items.ok_or_else(|| format!("{}: a list of texts is expected", field.key))?;
            Ok(if field.kind == FieldType::List { Value::List { items } } else { Value::Choices { keys: items } })
        }
        (FieldType::Place | FieldType::Address, Json::Object(_)) => Ok(Value::Place(lumbo_value::Place {
            town: json.get("town").and_then(Json::as_str).map(str::to_owned),
            region: json.get("region").and_then(Json::as_str).map(str::to_owned),
            postcode: json.get("postcode").and_then(Json::as_str).map(str::to_owned),
            country: json.get("country").and_then(Json::as_str).map(str::to_owned),
            lines: json
                .get("lines")
                .and_then(Json::as_array)
                .map(|lines| lines.iter().filter_map(Json::as_str).map(str::to_owned).collect())
                .unwrap_or_default(),
        })),
        (
            FieldType::Text
            | FieldType::LongText
            | FieldType::Company
            | FieldType::Email
            | FieldType::Website
            | FieldType::Country,
            Json::String(text),
        ) => Ok(Value::text(text.clone())),
        _ => Err(format!("{}: {json} is not a value of type {}", field.key, field.kind.name())),
    }
}
