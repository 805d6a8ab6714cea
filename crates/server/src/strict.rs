//! JSON that is read to the letter: an object is written as an object. Serde's derived readers take a list for an
//! object too, field by field in their order, which no document says and nobody means.

use serde::de::{DeserializeOwned, DeserializeSeed, Deserializer, EnumAccess, Error, MapAccess, SeqAccess, Visitor};

/// Reads a text.
///
/// # Errors
/// What is wrong and where, in serde's words.
pub(crate) fn from_slice<T: DeserializeOwned>(text: &[u8]) -> Result<T, serde_json::Error> {
    let mut reader = serde_json::Deserializer::from_slice(text);
    let value = T::deserialize(Strict(&mut reader))?;
    reader.end()?;
    Ok(value)
}

struct Strict<T>(T);

/// Forwards what stays as it is.
macro_rules! forward {
    ($($method:ident)*) => {
        $(fn $method<V: Visitor<'de>>(self, visitor: V) -> Result<V::Value, D::Error> {
            self.0.$method(Strict(visitor))
        })*
    };
}

impl<'de, D: Deserializer<'de>> Deserializer<'de> for Strict<D> {
    type Error = D::Error;

    forward! {
        deserialize_any deserialize_bool deserialize_i8 deserialize_i16 deserialize_i32 deserialize_i64 deserialize_i128
        deserialize_u8 deserialize_u16 deserialize_u32 deserialize_u64 deserialize_u128 deserialize_f32 deserialize_f64
        deserialize_char deserialize_str deserialize_string deserialize_bytes deserialize_byte_buf deserialize_option
        deserialize_unit deserialize_seq deserialize_map deserialize_identifier deserialize_ignored_any
    }

    fn deserialize_unit_struct<V: Visitor<'de>>(self, name: &'static str, visitor: V) -> Result<V::Value, D::Error> {
        self.0.deserialize_unit_struct(name, Strict(visitor))
    }

    fn deserialize_newtype_struct<V: Visitor<'de>>(self, name: &'static str, visitor: V) -> Result<V::Value, D::Error> {
        self.0.deserialize_newtype_struct(name, Strict(visitor))
    }

    fn deserialize_tuple<V: Visitor<'de>>(self, length: usize, visitor: V) -> Result<V::Value, D::Error> {
        self.0.deserialize_tuple(length, Strict(visitor))
    }

    fn deserialize_tuple_struct<V: Visitor<'de>>(
        self,
        name: &'static str,
        length: usize,
        visitor: V,
    ) -> Result<V::Value, D::Error> {
        self.0.deserialize_tuple_struct(name, length, Strict(visitor))
    }

    fn deserialize_struct<V: Visitor<'de>>(
        self,
        _name: &'static str,
        _fields: &'static [&'static str],
        visitor: V,
    ) -> Result<V::Value, D::Error> {
        self.0.deserialize_map(Strict(visitor))
    }

    fn deserialize_enum<V: Visitor<'de>>(
        self,
        name: &'static str,
        variants: &'static [&'static str],
        visitor: V,
    ) -> Result<V::Value, D::Error> {
        self.0.deserialize_enum(name, variants, Strict(visitor))
    }
}

/// Forwards what holds nothing in it.
macro_rules! visit {
    ($($method:ident($kind:ty))*) => {
        $(fn $method<E: Error>(self, value: $kind) -> Result<V::Value, E> {
            self.0.$method(value)
        })*
    };
}

impl<'de, V: Visitor<'de>> Visitor<'de> for Strict<V> {
    type Value = V::Value;

    fn expecting(&self, out: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        self.0.expecting(out)
    }

    visit! {
        visit_bool(bool) visit_i8(i8) visit_i16(i16) visit_i32(i32) visit_i64(i64) visit_i128(i128) visit_u8(u8)
        visit_u16(u16) visit_u32(u32) visit_u64(u64) visit_u128(u128) visit_f32(f32) visit_f64(f64) visit_char(char)
        visit_str(&str) visit_borrowed_str(&'de str) visit_string(String) visit_bytes(&[u8])
        visit_borrowed_bytes(&'de [u8]) visit_byte_buf(Vec<u8>)
    }

    fn visit_none<E: Error>(self) -> Result<V::Value, E> {
        self.0.visit_none()
    }

    fn visit_unit<E: Error>(self) -> Result<V::Value, E> {
        self.0.visit_unit()
    }

    fn visit_some<D: Deserializer<'de>>(self, inner: D) -> Result<V::Value, D::Error> {
        self.0.visit_some(Strict(inner))
    }

    fn visit_newtype_struct<D: Deserializer<'de>>(self, inner: D) -> Result<V::Value, D::Error> {
        self.0.visit_newtype_struct(Strict(inner))
    }

    fn visit_seq<A: SeqAccess<'de>>(self, items: A) -> Result<V::Value, A::Error> {
        self.0.visit_seq(Strict(items))
    }

    fn visit_map<A: MapAccess<'de>>(self, entries: A) -> Result<V::Value, A::Error> {
        self.0.visit_map(Strict(entries))
    }

    fn visit_enum<A: EnumAccess<'de>>(self, variant: A) -> Result<V::Value, A::Error> {
        self.0.visit_enum(variant)
    }
}

impl<'de, S: DeserializeSeed<'de>> DeserializeSeed<'de> for Strict<S> {
    type Value = S::Value;

    fn deserialize<D: Deserializer<'de>>(self, inner: D) -> Result<S::Value, D::Error> {
        self.0.deserialize(Strict(inner))
    }
}

impl<'de, A: SeqAccess<'de>> SeqAccess<'de> for Strict<A> {
    type Error = A::Error;

    fn next_element_seed<T: DeserializeSeed<'de>>(&mut self, seed: T) -> Result<Option<T::Value>, A::Error> {
        self.0.next_element_seed(Strict(seed))
    }

    fn size_hint(&self) -> Option<usize> {
        self.0.size_hint()
    }
}

impl<'de, A: MapAccess<'de>> MapAccess<'de> for Strict<A> {
    type Error = A::Error;

    fn next_key_seed<K: DeserializeSeed<'de>>(&mut self, seed: K) -> Result<Option<K::Value>, A::Error> {
        self.0.next_key_seed(Strict(seed))
    }

    fn next_value_seed<T: DeserializeSeed<'de>>(&mut self, seed: T) -> Result<T::Value, A::Error> {
        self.0.next_value_seed(Strict(seed))
    }

    fn size_hint(&self) -> Option<usize> {
        self.0.size_hint()
    }
}

#[cfg(test)]
mod tests {
    use std::collections::BTreeMap;

    use serde::Deserialize;

    use super::*;

    #[derive(Debug, PartialEq, Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Inner {
        #[serde(default)]
        a: Option<i64>,
    }

    #[derive(Debug, PartialEq, Deserialize)]
    struct Outer {
        one: Inner,
        #[serde(default)]
        more: Vec<Inner>,
        #[serde(default)]
        named: BTreeMap<String, Option<Inner>>,
    }

    fn read(text: &str) -> Result<Outer, String> {
        from_slice(text.as_bytes()).map_err(|error| error.to_string())
    }

    #[test]
    fn an_object_is_written_as_an_object_wherever_it_stands() {
        let read_well =
            read(r#"{"one": {"a": 1}, "more": [{"a": null}, {}], "named": {"x": null, "y": {"a": 2}}}"#).unwrap();
        assert_eq!((read_well.one.a, read_well.more.len(), read_well.named.len()), (Some(1), 2, 2));
        for wrong in [
            r#"[{"a": 1}]"#,
            r#"{"one": [1]}"#,
            r#"{"one": {}, "more": [[1]]}"#,
            r#"{"one": {}, "named": {"x": [1]}}"#,
            r#"{"one": {"b": 1}}"#,
            r#"{"one": {}} {}"#,
        ] {
            assert!(read(wrong).is_err(), "{wrong}");
        }
    }

    #[test]
    fn texts_numbers_and_kinds_are_read_as_ever() {
        let rules: Vec<lumbo_dialogue::file::Rule> =
            from_slice(br#"[{"rule": "required"}, {"rule": "length", "max": 5}]"#).unwrap();
        assert_eq!(rules.len(), 2);
        assert!(from_slice::<lumbo_dialogue::file::Rule>(br#"{"rule": "required", "colour": "red"}"#).is_err());
        assert!(from_slice::<lumbo_dialogue::file::Rule>(br#"{"rule": "at_least", "n": "five"}"#).is_err());
    }
}
