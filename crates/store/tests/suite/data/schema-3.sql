--
-- PostgreSQL database dump
--


-- Dumped from database version 15.18 (Debian 15.18-0+deb12u1)
-- Dumped by pg_dump version 15.18 (Debian 15.18-0+deb12u1)

SET statement_timeout = 0;
SET lock_timeout = 0;
SET idle_in_transaction_session_timeout = 0;
SET client_encoding = 'UTF8';
SET standard_conforming_strings = on;
SELECT pg_catalog.set_config('search_path', '', false);
SET check_function_bodies = false;
SET xmloption = content;
SET client_min_messages = warning;
SET row_security = off;

--
-- Name: refuse_event_change(); Type: FUNCTION; Schema: public; Owner: -
--

CREATE FUNCTION public.refuse_event_change() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
begin
  if current_setting('lumbo.erasing', true) = 'yes' and tg_op = 'UPDATE' then
    return new;
  end if;
  raise exception 'conversation events are only added';
end
$$;


SET default_tablespace = '';

SET default_table_access_method = heap;

--
-- Name: _sqlx_migrations; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public._sqlx_migrations (
    version bigint NOT NULL,
    description text NOT NULL,
    installed_on timestamp with time zone DEFAULT now() NOT NULL,
    success boolean NOT NULL,
    checksum bytea NOT NULL,
    execution_time bigint NOT NULL
);


--
-- Name: comments; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.comments (
    id uuid NOT NULL,
    workspace_id uuid NOT NULL,
    dialogue_id uuid NOT NULL,
    at_row text NOT NULL,
    person_id uuid NOT NULL,
    says text NOT NULL,
    made_at timestamp with time zone DEFAULT now() NOT NULL,
    resolved_at timestamp with time zone,
    resolved_by uuid
);


--
-- Name: companies; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.companies (
    id uuid NOT NULL,
    workspace_id uuid NOT NULL,
    name text,
    domain text,
    fields jsonb DEFAULT '{}'::jsonb NOT NULL,
    made_at timestamp with time zone DEFAULT now() NOT NULL
);


--
-- Name: contacts; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.contacts (
    id uuid NOT NULL,
    workspace_id uuid NOT NULL,
    company_id uuid,
    name text,
    email text,
    phone text,
    fields jsonb DEFAULT '{}'::jsonb NOT NULL,
    made_at timestamp with time zone DEFAULT now() NOT NULL
);


--
-- Name: conversation_events; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.conversation_events (
    workspace_id uuid NOT NULL,
    conversation_id uuid NOT NULL,
    number integer NOT NULL,
    kind text NOT NULL,
    at timestamp with time zone NOT NULL,
    body jsonb NOT NULL
);


--
-- Name: conversations; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.conversations (
    id uuid NOT NULL,
    workspace_id uuid NOT NULL,
    dialogue_id uuid NOT NULL,
    release_id uuid NOT NULL,
    token_hash bytea NOT NULL,
    state jsonb NOT NULL,
    events integer DEFAULT 0 NOT NULL,
    started_at timestamp with time zone NOT NULL,
    last_at timestamp with time zone NOT NULL,
    outcome text,
    idle_at timestamp with time zone
);


--
-- Name: dialogues; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.dialogues (
    id uuid NOT NULL,
    workspace_id uuid NOT NULL,
    slug text NOT NULL,
    title text NOT NULL,
    on_air uuid,
    made_at timestamp with time zone DEFAULT now() NOT NULL
);


--
-- Name: draft_edits; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.draft_edits (
    workspace_id uuid NOT NULL,
    dialogue_id uuid NOT NULL,
    revision bigint NOT NULL,
    person_id uuid NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL,
    edits jsonb NOT NULL,
    inverse jsonb NOT NULL,
    touches text[] NOT NULL
);


--
-- Name: drafts; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.drafts (
    dialogue_id uuid NOT NULL,
    workspace_id uuid NOT NULL,
    revision bigint NOT NULL,
    body jsonb NOT NULL,
    changed_at timestamp with time zone DEFAULT now() NOT NULL,
    changed_by uuid,
    released_revision bigint
);


--
-- Name: fields; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.fields (
    workspace_id uuid NOT NULL,
    id text NOT NULL,
    key text NOT NULL,
    definition jsonb NOT NULL,
    changed_at timestamp with time zone DEFAULT now() NOT NULL
);


--
-- Name: lead_log; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.lead_log (
    id bigint NOT NULL,
    workspace_id uuid NOT NULL,
    lead_id uuid NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL,
    person_id uuid,
    what text NOT NULL
);


--
-- Name: lead_log_id_seq; Type: SEQUENCE; Schema: public; Owner: -
--

ALTER TABLE public.lead_log ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.lead_log_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);


--
-- Name: leads; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.leads (
    id uuid NOT NULL,
    workspace_id uuid NOT NULL,
    dialogue_id uuid NOT NULL,
    release_id uuid NOT NULL,
    conversation_id uuid NOT NULL,
    contact_id uuid NOT NULL,
    company_id uuid,
    queue_id uuid,
    owner_id uuid,
    fields jsonb NOT NULL,
    score jsonb,
    total bigint,
    band text,
    band_label text,
    band_rank integer DEFAULT 0 NOT NULL,
    decision jsonb NOT NULL,
    transcript jsonb NOT NULL,
    status text DEFAULT 'new'::text NOT NULL,
    reason text,
    filings integer DEFAULT 1 NOT NULL,
    revision bigint DEFAULT 1 NOT NULL,
    filed_at timestamp with time zone NOT NULL,
    changed_at timestamp with time zone DEFAULT now() NOT NULL,
    CONSTRAINT leads_status_check CHECK ((status = ANY (ARRAY['new'::text, 'called'::text, 'won'::text, 'lost'::text, 'not_a_fit'::text])))
);


--
-- Name: media; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.media (
    workspace_id uuid NOT NULL,
    hash text NOT NULL,
    media_type text NOT NULL,
    content bytea NOT NULL,
    made_by uuid,
    made_at timestamp with time zone DEFAULT now() NOT NULL,
    CONSTRAINT media_hash_check CHECK ((hash ~ '^[0-9a-f]{64}$'::text))
);


--
-- Name: outbox; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.outbox (
    id uuid NOT NULL,
    workspace_id uuid NOT NULL,
    kind text NOT NULL,
    idempotency_key text NOT NULL,
    body jsonb NOT NULL,
    attempts integer DEFAULT 0 NOT NULL,
    next_at timestamp with time zone DEFAULT now() NOT NULL,
    done_at timestamp with time zone
);


--
-- Name: people; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.people (
    id uuid NOT NULL,
    workspace_id uuid NOT NULL,
    email text NOT NULL,
    name text NOT NULL,
    role text NOT NULL,
    password_hash text NOT NULL,
    active boolean DEFAULT true NOT NULL,
    made_at timestamp with time zone DEFAULT now() NOT NULL,
    CONSTRAINT people_role_check CHECK ((role = ANY (ARRAY['author'::text, 'rep'::text, 'rep_lead'::text, 'administrator'::text])))
);


--
-- Name: presence; Type: TABLE; Schema: public; Owner: -
--

CREATE UNLOGGED TABLE public.presence (
    workspace_id uuid NOT NULL,
    dialogue_id uuid NOT NULL,
    person_id uuid NOT NULL,
    at_row text,
    seen_at timestamp with time zone DEFAULT now() NOT NULL
);


--
-- Name: queue_members; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.queue_members (
    workspace_id uuid NOT NULL,
    queue_id uuid NOT NULL,
    person_id uuid NOT NULL,
    "position" integer NOT NULL,
    weight bigint DEFAULT 1 NOT NULL,
    rotation bigint DEFAULT 0 NOT NULL,
    CONSTRAINT queue_members_weight_check CHECK (((weight >= 0) AND (weight <= 1000)))
);


--
-- Name: queues; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.queues (
    id uuid NOT NULL,
    workspace_id uuid NOT NULL,
    key text NOT NULL,
    name text NOT NULL,
    picks text NOT NULL,
    fixed_owner uuid,
    CONSTRAINT queues_picks_check CHECK ((picks = ANY (ARRAY['rotation'::text, 'fixed_owner'::text])))
);


--
-- Name: releases; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.releases (
    id uuid NOT NULL,
    workspace_id uuid NOT NULL,
    dialogue_id uuid NOT NULL,
    number integer NOT NULL,
    note text NOT NULL,
    body jsonb NOT NULL,
    made_by uuid,
    made_at timestamp with time zone DEFAULT now() NOT NULL
);


--
-- Name: sessions; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.sessions (
    id text NOT NULL,
    data jsonb NOT NULL,
    expires_at timestamp with time zone NOT NULL
);


--
-- Name: timers; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.timers (
    id uuid NOT NULL,
    workspace_id uuid NOT NULL,
    kind text NOT NULL,
    subject uuid NOT NULL,
    due_at timestamp with time zone NOT NULL,
    done_at timestamp with time zone
);


--
-- Name: visitor_keys; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.visitor_keys (
    workspace_id uuid NOT NULL,
    id text NOT NULL,
    secret text NOT NULL,
    made_by uuid,
    made_at timestamp with time zone DEFAULT now() NOT NULL,
    used_at timestamp with time zone
);


--
-- Name: visitor_tokens; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.visitor_tokens (
    workspace_id uuid NOT NULL,
    hash bytea NOT NULL,
    expires_at timestamp with time zone NOT NULL
);


--
-- Name: workspaces; Type: TABLE; Schema: public; Owner: -
--

CREATE TABLE public.workspaces (
    id uuid NOT NULL,
    slug text NOT NULL,
    name text NOT NULL,
    made_at timestamp with time zone DEFAULT now() NOT NULL,
    domains jsonb DEFAULT '{"deny": [], "allow": []}'::jsonb NOT NULL,
    domains_revision bigint DEFAULT 0 NOT NULL
);


--
-- Data for Name: _sqlx_migrations; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public._sqlx_migrations VALUES (1, 'first slice', '2026-11-28 08:05:17.662883+00', true, '\x30a1020cab79e418014ce5cab4170852e6c79b365592518b0d25aa38752bed401e879373d250feaa1605763e0e53b391', 86621620);
INSERT INTO public._sqlx_migrations VALUES (2, 'workbench', '2026-11-28 08:05:17.75079+00', true, '\x12a25942612b223e298268a0a0736911a914f42cdf6479356a6268690c384e093b60f6bde97adbfdeb9909a6e835068e', 15041386);
INSERT INTO public._sqlx_migrations VALUES (3, 'capture', '2026-11-28 08:05:17.76639+00', true, '\x3fe6a947db6d3ae226c7e64760887a28915f9119e86da682fcabb81faf043340746c4473e04e019786f36a05517f2a9c', 8848347);


--
-- Data for Name: comments; Type: TABLE DATA; Schema: public; Owner: -
--



--
-- Data for Name: companies; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.companies VALUES ('01a2212f-eabc-7046-b0b9-9767e0a571eb', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'Pryce & Daughters', 'pryce.example', '[{"id": "fld_company", "key": "company", "type": "company", "label": "Company", "shown": "Pryce & Daughters", "value": "Pryce & Daughters", "record": "company"}]', '2026-11-28 08:05:18.138792+00');
INSERT INTO public.companies VALUES ('01a2212f-ead8-7777-80cb-99b6da011186', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'Olive Press Deli', 'olivepress.example', '[{"id": "fld_company", "key": "company", "type": "company", "label": "Company", "shown": "Olive Press Deli", "value": "Olive Press Deli", "record": "company"}]', '2026-11-28 08:05:18.167312+00');
INSERT INTO public.companies VALUES ('01a2212f-eaeb-74e6-8a12-5836b222116e', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'Ekström Berries', 'ekstromberries.example', '[{"id": "fld_company", "key": "company", "type": "company", "label": "Company", "shown": "Ekström Berries", "value": "Ekström Berries", "record": "company"}]', '2026-11-28 08:05:18.18598+00');
INSERT INTO public.companies VALUES ('01a2212f-eaff-7525-95f9-9452cbf02a68', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', NULL, 'petrie.example', '[]', '2026-11-28 08:05:18.206335+00');
INSERT INTO public.companies VALUES ('01a2212f-eb1d-75c1-a991-2f0ca5a8c015', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'Mossfield Dairy', 'mossfield.example', '[{"id": "fld_company", "key": "company", "type": "company", "label": "Company", "shown": "Mossfield Dairy", "value": "Mossfield Dairy", "record": "company"}]', '2026-11-28 08:05:18.236869+00');
INSERT INTO public.companies VALUES ('01a2212f-eb32-75b0-b8f7-7a326d97d37a', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'Blue Heron Ices', 'blueheron.example', '[{"id": "fld_company", "key": "company", "type": "company", "label": "Company", "shown": "Blue Heron Ices", "value": "Blue Heron Ices", "record": "company"}]', '2026-11-28 08:05:18.257159+00');


--
-- Data for Name: contacts; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.contacts VALUES ('01a2212f-eabe-744f-9d0b-b451d0a48eb6', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eabc-7046-b0b9-9767e0a571eb', 'Nia Pryce', 'nia@pryce.example', '+442079460642', '[{"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "shown": "Owner or director", "value": "owner", "record": "contact"}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "shown": "Nia Pryce", "value": {"full": "Nia Pryce", "given": "Nia", "family": "Pryce"}, "record": "contact"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "shown": "nia@pryce.example", "value": "nia@pryce.example", "record": "contact"}, {"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "shown": "+44 20 7946 0642", "value": "+442079460642", "record": "contact"}]', '2026-11-28 08:05:18.138792+00');
INSERT INTO public.contacts VALUES ('01a2212f-ead8-7777-80cb-99b7213306da', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ead8-7777-80cb-99b6da011186', 'Sami Haddad', 'sami@olivepress.example', NULL, '[{"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "shown": "Gathering quotes", "value": "quotes", "record": "contact"}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "shown": "Sami Haddad", "value": {"full": "Sami Haddad", "given": "Sami", "family": "Haddad"}, "record": "contact"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "shown": "sami@olivepress.example", "value": "sami@olivepress.example", "record": "contact"}]', '2026-11-28 08:05:18.167312+00');
INSERT INTO public.contacts VALUES ('01a2212f-eaeb-74e6-8a12-5837a657f6d4', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaeb-74e6-8a12-5836b222116e', 'Maud Ekström', 'maud@ekstromberries.example', '+442079460588', '[{"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "shown": "Owner or director", "value": "owner", "record": "contact"}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "shown": "Maud Ekström", "value": {"full": "Maud Ekström", "given": "Maud", "family": "Ekström"}, "record": "contact"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "shown": "maud@ekstromberries.example", "value": "maud@ekstromberries.example", "record": "contact"}, {"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "shown": "+44 20 7946 0588", "value": "+442079460588", "record": "contact"}]', '2026-11-28 08:05:18.18598+00');
INSERT INTO public.contacts VALUES ('01a2212f-eb01-709a-b3f8-59f919f93195', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaff-7525-95f9-9452cbf02a68', 'Jon Petrie', 'jon@petrie.example', NULL, '[{"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "shown": "Jon Petrie", "value": {"full": "Jon Petrie", "given": "Jon", "family": "Petrie"}, "record": "contact"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "shown": "jon@petrie.example", "value": "jon@petrie.example", "record": "contact"}]', '2026-11-28 08:05:18.206335+00');
INSERT INTO public.contacts VALUES ('01a2212f-eb1e-743b-90ec-41b03fa4ff56', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb1d-75c1-a991-2f0ca5a8c015', 'Ivo Brandt', 'ivo@mossfield.example', '+442079460511', '[{"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "shown": "Manager", "value": "manager", "record": "contact"}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "shown": "Ivo Brandt", "value": {"full": "Ivo Brandt", "given": "Ivo", "family": "Brandt"}, "record": "contact"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "shown": "ivo@mossfield.example", "value": "ivo@mossfield.example", "record": "contact"}, {"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "shown": "+44 20 7946 0511", "value": "+442079460511", "record": "contact"}]', '2026-11-28 08:05:18.236869+00');
INSERT INTO public.contacts VALUES ('01a2212f-eb32-75b0-b8f7-7a33e4bc9b0b', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb32-75b0-b8f7-7a326d97d37a', 'Ada Moreno', 'ada@blueheron.example', '+442079460467', '[{"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "shown": "Owner or director", "value": "owner", "record": "contact"}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "shown": "Ada Moreno", "value": {"full": "Ada Moreno", "given": "Ada", "family": "Moreno"}, "record": "contact"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "shown": "ada@blueheron.example", "value": "ada@blueheron.example", "record": "contact"}, {"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "shown": "+44 20 7946 0467", "value": "+442079460467", "record": "contact"}]', '2026-11-28 08:05:18.257159+00');


--
-- Data for Name: conversation_events; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 0, 'taken', '2026-11-24 17:25:18.025292+00', '{"at": "2026-11-24T17:25:18.025292557Z", "event": "taken", "input": "start"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 1, 'started', '2026-11-24 17:25:18.025292+00', '{"seed": 1382993671374821, "event": "started", "context": {"page": "/storage", "device": "phone"}, "language": "en"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 2, 'entered', '2026-11-24 17:25:18.025292+00', '{"event": "entered", "section": "welcome"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 3, 'asked', '2026-11-24 17:25:18.025292+00', '{"text": "What can we help you with?", "turn": "t_interest", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 4, 'taken', '2026-11-24 17:25:25.025292+00', '{"at": "2026-11-24T17:25:25.025292557Z", "event": "taken", "input": "line-0"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 5, 'replied', '2026-11-24 17:25:25.025292+00', '{"text": "storage", "turn": "t_interest", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 6, 'kept', '2026-11-24 17:25:25.025292+00', '{"turn": "t_interest", "after": 0, "event": "kept", "field": "fld_interest", "heard": {"end": 7, "text": "storage", "start": 0}, "shown": "Cold storage", "value": {"key": "storage", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 7, 'took', '2026-11-24 17:25:25.025292+00', '{"arm": "a_storage", "turn": "t_interest", "event": "took", "because": "Cold storage or Blast freezing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 8, 'entered', '2026-11-24 17:25:25.025292+00', '{"event": "entered", "section": "load"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 9, 'said', '2026-11-24 17:25:25.025292+00', '{"turn": "t_load", "event": "said", "lines": [{"kind": "text", "text": "A few questions about what you need to keep cold."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 10, 'asked', '2026-11-24 17:25:25.025292+00', '{"text": "How cold does it have to be?", "turn": "t_temperature", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 11, 'taken', '2026-11-24 17:25:33.025292+00', '{"at": "2026-11-24T17:25:33.025292557Z", "event": "taken", "input": "line-1"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 12, 'replied', '2026-11-24 17:25:33.025292+00', '{"text": "frozen", "turn": "t_temperature", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 13, 'kept', '2026-11-24 17:25:33.025292+00', '{"turn": "t_temperature", "after": 15, "event": "kept", "field": "fld_temperature", "heard": {"end": 6, "text": "frozen", "start": 0}, "shown": "Frozen", "value": {"key": "frozen", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 14, 'took', '2026-11-24 17:25:33.025292+00', '{"arm": "a_frozen", "turn": "t_temperature", "event": "took", "because": "Frozen"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 15, 'asked', '2026-11-24 17:25:33.025292+00', '{"text": "Does any of it need blast freezing first?", "turn": "t_blast", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 16, 'taken', '2026-11-24 17:25:51.025292+00', '{"at": "2026-11-24T17:25:51.025292557Z", "event": "taken", "input": "line-2"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 17, 'replied', '2026-11-24 17:25:51.025292+00', '{"text": "no", "turn": "t_blast", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 18, 'kept', '2026-11-24 17:25:51.025292+00', '{"turn": "t_blast", "after": 15, "event": "kept", "field": "fld_blast", "heard": {"end": 2, "text": "no", "start": 0}, "shown": "No", "value": {"yes": false, "kind": "yes_no"}, "before": 15}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 19, 'asked', '2026-11-24 17:25:51.025292+00', '{"text": "Roughly how many pallets at your busiest?", "turn": "t_pallets", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 20, 'taken', '2026-11-24 17:26:07.025292+00', '{"at": "2026-11-24T17:26:07.025292557Z", "event": "taken", "input": "line-3"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 21, 'replied', '2026-11-24 17:26:07.025292+00', '{"text": "55", "turn": "t_pallets", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 22, 'kept', '2026-11-24 17:26:07.025292+00', '{"turn": "t_pallets", "after": 25, "event": "kept", "field": "fld_pallets", "heard": {"end": 2, "text": "55", "start": 0}, "shown": "55 pallets", "value": {"kind": "number", "amount": "55"}, "before": 15}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 23, 'worked_out', '2026-11-24 17:26:07.025292+00', '{"turn": "t_estimate", "after": 25, "event": "worked_out", "field": "fld_estimate", "shown": "£225.50", "value": {"kind": "money", "amount": "225.50", "currency": "GBP"}, "before": 25}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 24, 'took', '2026-11-24 17:26:07.025292+00', '{"arm": "a_usual", "turn": "t_big", "event": "took", "because": "otherwise"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 25, 'entered', '2026-11-24 17:26:07.025292+00', '{"event": "entered", "section": "timing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 26, 'said', '2026-11-24 17:26:07.025292+00', '{"turn": "t_price", "event": "said", "lines": [{"kind": "text", "text": "For 55 pallets we would expect about £225.50 a week, handling included."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 27, 'asked', '2026-11-24 17:26:07.025292+00', '{"text": "When would the first pallets arrive?", "turn": "t_start", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 28, 'taken', '2026-11-24 17:26:24.025292+00', '{"at": "2026-11-24T17:26:24.025292557Z", "event": "taken", "input": "line-4"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 29, 'replied', '2026-11-24 17:26:24.025292+00', '{"text": "asap", "turn": "t_start", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 30, 'kept', '2026-11-24 17:26:24.025292+00', '{"turn": "t_start", "after": 50, "event": "kept", "field": "fld_start", "heard": {"end": 4, "text": "asap", "start": 0}, "shown": "Within 8 weeks", "value": {"key": "soon", "kind": "choice"}, "before": 25}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 31, 'entered', '2026-11-24 17:26:24.025292+00', '{"event": "entered", "section": "who"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 32, 'asked', '2026-11-24 17:26:24.025292+00', '{"text": "What is your part in the decision?", "turn": "t_role", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 33, 'taken', '2026-11-24 17:26:35.025292+00', '{"at": "2026-11-24T17:26:35.025292557Z", "event": "taken", "input": "line-5"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 34, 'replied', '2026-11-24 17:26:35.025292+00', '{"text": "founder", "turn": "t_role", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 35, 'kept', '2026-11-24 17:26:35.025292+00', '{"turn": "t_role", "after": 75, "event": "kept", "field": "fld_role", "heard": {"end": 7, "text": "founder", "start": 0}, "shown": "Owner or director", "value": {"key": "owner", "kind": "choice"}, "before": 50}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 36, 'asked', '2026-11-24 17:26:35.025292+00', '{"text": "Who should we ask for?", "turn": "t_name", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 37, 'taken', '2026-11-24 17:26:55.025292+00', '{"at": "2026-11-24T17:26:55.025292557Z", "event": "taken", "input": "line-6"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 38, 'replied', '2026-11-24 17:26:55.025292+00', '{"text": "Nia Pryce", "turn": "t_name", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 41, 'taken', '2026-11-24 17:27:19.025292+00', '{"at": "2026-11-24T17:27:19.025292557Z", "event": "taken", "input": "line-7"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 39, 'kept', '2026-11-24 17:26:55.025292+00', '{"turn": "t_name", "after": 75, "event": "kept", "field": "fld_name", "heard": {"end": 9, "text": "Nia Pryce", "start": 0}, "shown": "Nia Pryce", "value": {"full": "Nia Pryce", "kind": "name", "given": "Nia", "family": "Pryce"}, "before": 75}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 40, 'asked', '2026-11-24 17:26:55.025292+00', '{"text": "And the company?", "turn": "t_company", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 45, 'taken', '2026-11-24 17:27:36.025292+00', '{"at": "2026-11-24T17:27:36.025292557Z", "event": "taken", "input": "line-8"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 46, 'replied', '2026-11-24 17:27:36.025292+00', '{"text": "nia@pryce.example", "turn": "t_email", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 47, 'kept', '2026-11-24 17:27:36.025292+00', '{"turn": "t_email", "after": 75, "event": "kept", "field": "fld_email", "heard": {"end": 17, "text": "nia@pryce.example", "start": 0}, "shown": "nia@pryce.example", "value": {"kind": "text", "text": "nia@pryce.example"}, "before": 75}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 48, 'asked', '2026-11-24 17:27:36.025292+00', '{"text": "And a number to reach you on?", "turn": "t_phone", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 0, 'taken', '2026-11-25 08:25:18.151314+00', '{"at": "2026-11-25T08:25:18.151314029Z", "event": "taken", "input": "start"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 1, 'started', '2026-11-25 08:25:18.151314+00', '{"seed": 563943394739513, "event": "started", "context": {"page": "/storage", "device": "phone"}, "language": "en"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 2, 'entered', '2026-11-25 08:25:18.151314+00', '{"event": "entered", "section": "welcome"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 3, 'asked', '2026-11-25 08:25:18.151314+00', '{"text": "What can we help you with?", "turn": "t_interest", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 11, 'taken', '2026-11-25 08:25:50.151314+00', '{"at": "2026-11-25T08:25:50.151314029Z", "event": "taken", "input": "line-1"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 12, 'replied', '2026-11-25 08:25:50.151314+00', '{"text": "chilled", "turn": "t_temperature", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 13, 'kept', '2026-11-25 08:25:50.151314+00', '{"turn": "t_temperature", "after": 0, "event": "kept", "field": "fld_temperature", "heard": {"end": 7, "text": "chilled", "start": 0}, "shown": "Chilled", "value": {"key": "chilled", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 14, 'took', '2026-11-25 08:25:50.151314+00', '{"arm": "a_chilled", "turn": "t_temperature", "event": "took", "because": "Chilled"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 15, 'asked', '2026-11-25 08:25:50.151314+00', '{"text": "Roughly how many pallets at your busiest?", "turn": "t_pallets", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 20, 'taken', '2026-11-25 08:26:23.151314+00', '{"at": "2026-11-25T08:26:23.151314029Z", "event": "taken", "input": "line-3"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 21, 'replied', '2026-11-25 08:26:23.151314+00', '{"text": "60-80", "turn": "t_pallets", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 22, 'kept', '2026-11-25 08:26:23.151314+00', '{"turn": "t_pallets", "after": 10, "event": "kept", "field": "fld_pallets", "heard": {"end": 5, "text": "60-80", "start": 0}, "shown": "60 to 80 pallets", "value": {"low": "60", "high": "80", "kind": "number", "amount": "70"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 23, 'worked_out', '2026-11-25 08:26:23.151314+00', '{"turn": "t_estimate", "after": 10, "event": "worked_out", "field": "fld_estimate", "shown": "£234.50", "value": {"kind": "money", "amount": "234.50", "currency": "GBP"}, "before": 10}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 24, 'took', '2026-11-25 08:26:23.151314+00', '{"arm": "a_usual", "turn": "t_big", "event": "took", "because": "otherwise"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 25, 'entered', '2026-11-25 08:26:23.151314+00', '{"event": "entered", "section": "timing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 26, 'said', '2026-11-25 08:26:23.151314+00', '{"turn": "t_price", "event": "said", "lines": [{"kind": "text", "text": "For 60 to 80 pallets we would expect about £234.50 a week, handling included."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 27, 'asked', '2026-11-25 08:26:23.151314+00', '{"text": "When would the first pallets arrive?", "turn": "t_start", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 33, 'taken', '2026-11-25 08:26:42.151314+00', '{"at": "2026-11-25T08:26:42.151314029Z", "event": "taken", "input": "line-5"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 34, 'replied', '2026-11-25 08:26:42.151314+00', '{"text": "getting quotes", "turn": "t_role", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 35, 'kept', '2026-11-25 08:26:42.151314+00', '{"turn": "t_role", "after": 10, "event": "kept", "field": "fld_role", "heard": {"end": 14, "text": "getting quotes", "start": 0}, "shown": "Gathering quotes", "value": {"key": "quotes", "kind": "choice"}, "before": 20}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 36, 'asked', '2026-11-25 08:26:42.151314+00', '{"text": "Who should we ask for?", "turn": "t_name", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 41, 'taken', '2026-11-25 08:26:56.151314+00', '{"at": "2026-11-25T08:26:56.151314029Z", "event": "taken", "input": "line-7"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 42, 'replied', '2026-11-25 08:26:56.151314+00', '{"text": "Olive Press Deli", "turn": "t_company", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 43, 'kept', '2026-11-25 08:26:56.151314+00', '{"turn": "t_company", "after": 10, "event": "kept", "field": "fld_company", "heard": {"end": 16, "text": "Olive Press Deli", "start": 0}, "shown": "Olive Press Deli", "value": {"kind": "text", "text": "Olive Press Deli"}, "before": 10}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 44, 'asked', '2026-11-25 08:26:56.151314+00', '{"text": "Which address at Olive Press Deli should we send the estimate to?", "turn": "t_email", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 48, 'taken', '2026-11-25 08:27:21.151314+00', '{"at": "2026-11-25T08:27:21.151314029Z", "event": "taken", "input": "line-9"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 49, 'replied', '2026-11-25 08:27:21.151314+00', '{"text": "sami@olivepress.example", "turn": "t_email", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 50, 'kept', '2026-11-25 08:27:21.151314+00', '{"turn": "t_email", "after": 10, "event": "kept", "field": "fld_email", "heard": {"end": 23, "text": "sami@olivepress.example", "start": 0}, "shown": "sami@olivepress.example", "value": {"kind": "text", "text": "sami@olivepress.example"}, "before": 10}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 51, 'asked', '2026-11-25 08:27:21.151314+00', '{"text": "And a number to reach you on?", "turn": "t_phone", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 0, 'taken', '2026-11-26 04:25:18.173243+00', '{"at": "2026-11-26T04:25:18.17324321Z", "event": "taken", "input": "start"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 1, 'started', '2026-11-26 04:25:18.173243+00', '{"seed": 1753373353057234, "event": "started", "context": {"page": "/blast-freezing", "device": "computer"}, "language": "en"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 42, 'replied', '2026-11-24 17:27:19.025292+00', '{"text": "Pryce & Daughters", "turn": "t_company", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 43, 'kept', '2026-11-24 17:27:19.025292+00', '{"turn": "t_company", "after": 75, "event": "kept", "field": "fld_company", "heard": {"end": 17, "text": "Pryce & Daughters", "start": 0}, "shown": "Pryce & Daughters", "value": {"kind": "text", "text": "Pryce & Daughters"}, "before": 75}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 44, 'asked', '2026-11-24 17:27:19.025292+00', '{"text": "Which address at Pryce & Daughters should we send the estimate to?", "turn": "t_email", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 49, 'taken', '2026-11-24 17:27:45.025292+00', '{"at": "2026-11-24T17:27:45.025292557Z", "event": "taken", "input": "line-9"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 50, 'replied', '2026-11-24 17:27:45.025292+00', '{"text": "020 7946 0642", "turn": "t_phone", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 51, 'kept', '2026-11-24 17:27:45.025292+00', '{"turn": "t_phone", "after": 75, "event": "kept", "field": "fld_phone", "heard": {"end": 13, "text": "020 7946 0642", "start": 0}, "shown": "+44 20 7946 0642", "value": {"kind": "phone", "number": "+442079460642"}, "before": 75}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 52, 'filed', '2026-11-24 17:27:45.025292+00', '{"turn": "t_file", "event": "filed", "score": {"band": "hot", "total": 75, "band_from": 70, "scorecard": "fit", "band_label": "Hot", "dimensions": [{"id": "need", "sum": 25, "title": "Need", "counts": 25, "ceiling": 45, "criteria": [{"id": "c_frozen", "label": "Temperature is Frozen", "points": 15}, {"id": "c_blast", "label": "Blast freezing is yes", "points": 0}, {"id": "c_pallets", "label": "Pallets 55", "points": 10}]}, {"id": "authority", "sum": 25, "title": "Authority", "counts": 25, "ceiling": 25, "criteria": [{"id": "c_owner", "label": "Role is Owner or director", "points": 25}, {"id": "c_quotes", "label": "Role is Gathering quotes", "points": 0}]}, {"id": "timing", "sum": 25, "title": "Timing", "counts": 25, "ceiling": 25, "criteria": [{"id": "c_soon", "label": "Start is Within 8 weeks", "points": 25}, {"id": "c_half", "label": "Start is In 9 to 26 weeks", "points": 0}]}], "band_by_points": "hot"}, "filing": 1, "decision": {"queue": "senior", "steps": ["Band is hot: queue senior"]}}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 53, 'took', '2026-11-24 17:27:45.025292+00', '{"arm": "a_hot", "turn": "t_file", "event": "took", "because": "Hot"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 54, 'said', '2026-11-24 17:27:45.025292+00', '{"turn": "t_hotline", "event": "said", "lines": [{"kind": "text", "text": "Thank you, Nia. Somebody from the depot calls you today."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea4c-7079-b499-038e351738eb', 55, 'closed', '2026-11-24 17:27:45.025292+00', '{"turn": "t_end_lead", "event": "closed", "lines": [{"kind": "text", "text": "Have a good day."}], "outcome": "lead"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 4, 'taken', '2026-11-25 08:25:31.151314+00', '{"at": "2026-11-25T08:25:31.151314029Z", "event": "taken", "input": "line-0"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 5, 'replied', '2026-11-25 08:25:31.151314+00', '{"text": "storage", "turn": "t_interest", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 6, 'kept', '2026-11-25 08:25:31.151314+00', '{"turn": "t_interest", "after": 0, "event": "kept", "field": "fld_interest", "heard": {"end": 7, "text": "storage", "start": 0}, "shown": "Cold storage", "value": {"key": "storage", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 7, 'took', '2026-11-25 08:25:31.151314+00', '{"arm": "a_storage", "turn": "t_interest", "event": "took", "because": "Cold storage or Blast freezing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 8, 'entered', '2026-11-25 08:25:31.151314+00', '{"event": "entered", "section": "load"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 9, 'said', '2026-11-25 08:25:31.151314+00', '{"turn": "t_load", "event": "said", "lines": [{"kind": "text", "text": "A few quick questions about your load."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 10, 'asked', '2026-11-25 08:25:31.151314+00', '{"text": "How cold does it have to be?", "turn": "t_temperature", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 16, 'taken', '2026-11-25 08:26:05.151314+00', '{"at": "2026-11-25T08:26:05.151314029Z", "event": "taken", "input": "line-2"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 17, 'replied', '2026-11-25 08:26:05.151314+00', '{"text": "what do you want that for?", "turn": "t_pallets", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 18, 'side_talked', '2026-11-25 08:26:05.151314+00', '{"turn": "t_pallets", "what": "asks why", "event": "side_talked", "lines": [{"kind": "text", "text": "It tells us which depot has room."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 19, 'asked_again', '2026-11-25 08:26:05.151314+00', '{"text": "How many pallets, roughly?", "turn": "t_pallets", "event": "asked_again"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 28, 'taken', '2026-11-25 08:26:36.151314+00', '{"at": "2026-11-25T08:26:36.151314029Z", "event": "taken", "input": "line-4"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 29, 'replied', '2026-11-25 08:26:36.151314+00', '{"text": "next quarter", "turn": "t_start", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 30, 'kept', '2026-11-25 08:26:36.151314+00', '{"turn": "t_start", "after": 20, "event": "kept", "field": "fld_start", "heard": {"end": 12, "text": "next quarter", "start": 0}, "shown": "In 9 to 26 weeks", "value": {"key": "half_year", "kind": "choice"}, "before": 10}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 31, 'entered', '2026-11-25 08:26:36.151314+00', '{"event": "entered", "section": "who"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 32, 'asked', '2026-11-25 08:26:36.151314+00', '{"text": "What is your part in the decision?", "turn": "t_role", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 37, 'taken', '2026-11-25 08:26:49.151314+00', '{"at": "2026-11-25T08:26:49.151314029Z", "event": "taken", "input": "line-6"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 38, 'replied', '2026-11-25 08:26:49.151314+00', '{"text": "Sami Haddad", "turn": "t_name", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 39, 'kept', '2026-11-25 08:26:49.151314+00', '{"turn": "t_name", "after": 10, "event": "kept", "field": "fld_name", "heard": {"end": 11, "text": "Sami Haddad", "start": 0}, "shown": "Sami Haddad", "value": {"full": "Sami Haddad", "kind": "name", "given": "Sami", "family": "Haddad"}, "before": 10}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 40, 'asked', '2026-11-25 08:26:49.151314+00', '{"text": "And the company?", "turn": "t_company", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 45, 'taken', '2026-11-25 08:27:08.151314+00', '{"at": "2026-11-25T08:27:08.151314029Z", "event": "taken", "input": "line-8"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 46, 'replied', '2026-11-25 08:27:08.151314+00', '{"text": "sami@gmail.com", "turn": "t_email", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 2, 'entered', '2026-11-26 04:25:18.173243+00', '{"event": "entered", "section": "welcome"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 47, 'not_kept', '2026-11-25 08:27:08.151314+00', '{"of": 3, "turn": "t_email", "event": "not_kept", "field": "fld_email", "heard": {"end": 14, "text": "sami@gmail.com", "start": 0}, "failed": ["company_address"], "attempt": 1, "message": "gmail.com is a personal mail service. Please give your address at the company.", "refused": {"kind": "text", "text": "sami@gmail.com"}}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 52, 'taken', '2026-11-25 08:27:32.151314+00', '{"at": "2026-11-25T08:27:32.151314029Z", "event": "taken", "input": "line-10"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 53, 'replied', '2026-11-25 08:27:32.151314+00', '{"text": "E-mail is enough", "turn": "t_phone", "event": "replied", "picked": true}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 54, 'left_open', '2026-11-25 08:27:32.151314+00', '{"why": "skipped", "turn": "t_phone", "event": "left_open", "field": "fld_phone", "missing": "skipped"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 55, 'filed', '2026-11-25 08:27:32.151314+00', '{"turn": "t_file", "event": "filed", "score": {"band": "nurture", "total": 10, "unknown": ["c_blast"], "scorecard": "fit", "band_label": "Nurture", "dimensions": [{"id": "need", "sum": 10, "title": "Need", "counts": 10, "ceiling": 45, "criteria": [{"id": "c_frozen", "label": "Temperature is Frozen", "points": 0}, {"id": "c_blast", "label": "Blast freezing is yes", "points": 0, "unknown": true}, {"id": "c_pallets", "label": "Pallets 60 to 80", "points": 10}]}, {"id": "authority", "sum": -10, "title": "Authority", "counts": -10, "ceiling": 25, "criteria": [{"id": "c_owner", "label": "Role is Owner or director", "points": 0}, {"id": "c_quotes", "label": "Role is Gathering quotes", "points": -10}]}, {"id": "timing", "sum": 10, "title": "Timing", "counts": 10, "ceiling": 25, "criteria": [{"id": "c_soon", "label": "Start is Within 8 weeks", "points": 0}, {"id": "c_half", "label": "Start is In 9 to 26 weeks", "points": 10}]}], "band_by_points": "nurture"}, "filing": 1, "decision": {"queue": "saltwick", "steps": ["Band is hot: does not hold", "Temperature is Chilled: queue saltwick"]}}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 56, 'took', '2026-11-25 08:27:32.151314+00', '{"arm": "a_nurture", "turn": "t_file", "event": "took", "because": "otherwise"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 57, 'said', '2026-11-25 08:27:32.151314+00', '{"turn": "t_nurtureline", "event": "said", "lines": [{"kind": "text", "text": "Thank you, Sami. We send you our rates and a guide to packing for the cold."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac7-733a-8dba-72408a8feae6', 58, 'closed', '2026-11-25 08:27:32.151314+00', '{"turn": "t_end_lead", "event": "closed", "lines": [{"kind": "text", "text": "Have a good day."}], "outcome": "lead"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 4, 'taken', '2026-11-26 04:25:40.173243+00', '{"at": "2026-11-26T04:25:40.17324321Z", "event": "taken", "input": "line-0"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 5, 'replied', '2026-11-26 04:25:40.173243+00', '{"text": "Blast freezing", "turn": "t_interest", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 6, 'kept', '2026-11-26 04:25:40.173243+00', '{"turn": "t_interest", "after": 0, "event": "kept", "field": "fld_interest", "heard": {"end": 14, "text": "Blast freezing", "start": 0}, "shown": "Blast freezing", "value": {"key": "blast", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 7, 'took', '2026-11-26 04:25:40.173243+00', '{"arm": "a_storage", "turn": "t_interest", "event": "took", "because": "Cold storage or Blast freezing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 8, 'entered', '2026-11-26 04:25:40.173243+00', '{"event": "entered", "section": "load"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 9, 'said', '2026-11-26 04:25:40.173243+00', '{"turn": "t_load", "event": "said", "lines": [{"kind": "text", "text": "A few quick questions about your load."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 10, 'asked', '2026-11-26 04:25:40.173243+00', '{"text": "How cold does it have to be?", "turn": "t_temperature", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 16, 'taken', '2026-11-26 04:26:19.173243+00', '{"at": "2026-11-26T04:26:19.17324321Z", "event": "taken", "input": "line-2"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 17, 'replied', '2026-11-26 04:26:19.173243+00', '{"text": "yes", "turn": "t_blast", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 18, 'kept', '2026-11-26 04:26:19.173243+00', '{"turn": "t_blast", "after": 27, "event": "kept", "field": "fld_blast", "heard": {"end": 3, "text": "yes", "start": 0}, "shown": "Yes", "value": {"yes": true, "kind": "yes_no"}, "before": 15}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 19, 'asked', '2026-11-26 04:26:19.173243+00', '{"text": "Roughly how many pallets at your busiest?", "turn": "t_pallets", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 28, 'taken', '2026-11-26 04:26:56.173243+00', '{"at": "2026-11-26T04:26:56.17324321Z", "event": "taken", "input": "line-4"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 29, 'replied', '2026-11-26 04:26:56.173243+00', '{"text": "owner", "turn": "t_role", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 30, 'kept', '2026-11-26 04:26:56.173243+00', '{"turn": "t_role", "after": 70, "event": "kept", "field": "fld_role", "heard": {"end": 5, "text": "owner", "start": 0}, "shown": "Owner or director", "value": {"key": "owner", "kind": "choice"}, "before": 45}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 31, 'asked', '2026-11-26 04:26:56.173243+00', '{"text": "Who should we ask for?", "turn": "t_name", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 36, 'taken', '2026-11-26 04:27:21.173243+00', '{"at": "2026-11-26T04:27:21.17324321Z", "event": "taken", "input": "line-6"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 37, 'replied', '2026-11-26 04:27:21.173243+00', '{"text": "Ekström Berries", "turn": "t_company", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 38, 'kept', '2026-11-26 04:27:21.173243+00', '{"turn": "t_company", "after": 70, "event": "kept", "field": "fld_company", "heard": {"end": 15, "text": "Ekström Berries", "start": 0}, "shown": "Ekström Berries", "value": {"kind": "text", "text": "Ekström Berries"}, "before": 70}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 39, 'asked', '2026-11-26 04:27:21.173243+00', '{"text": "Which address at Ekström Berries should we send the estimate to?", "turn": "t_email", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 44, 'taken', '2026-11-26 04:27:42.173243+00', '{"at": "2026-11-26T04:27:42.17324321Z", "event": "taken", "input": "line-8"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 45, 'replied', '2026-11-26 04:27:42.173243+00', '{"text": "020 7946 0588", "turn": "t_phone", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 46, 'kept', '2026-11-26 04:27:42.173243+00', '{"turn": "t_phone", "after": 70, "event": "kept", "field": "fld_phone", "heard": {"end": 13, "text": "020 7946 0588", "start": 0}, "shown": "+44 20 7946 0588", "value": {"kind": "phone", "number": "+442079460588"}, "before": 70}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 27, 'asked', '2026-11-26 07:46:08.191956+00', '{"text": "When would the first pallets arrive?", "turn": "t_start", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 3, 'asked', '2026-11-26 04:25:18.173243+00', '{"text": "What can we help you with?", "turn": "t_interest", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 11, 'taken', '2026-11-26 04:26:03.173243+00', '{"at": "2026-11-26T04:26:03.17324321Z", "event": "taken", "input": "line-1"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 12, 'replied', '2026-11-26 04:26:03.173243+00', '{"text": "frozen", "turn": "t_temperature", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 13, 'kept', '2026-11-26 04:26:03.173243+00', '{"turn": "t_temperature", "after": 15, "event": "kept", "field": "fld_temperature", "heard": {"end": 6, "text": "frozen", "start": 0}, "shown": "Frozen", "value": {"key": "frozen", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 14, 'took', '2026-11-26 04:26:03.173243+00', '{"arm": "a_frozen", "turn": "t_temperature", "event": "took", "because": "Frozen"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 15, 'asked', '2026-11-26 04:26:03.173243+00', '{"text": "Does any of it need blast freezing first?", "turn": "t_blast", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 20, 'taken', '2026-11-26 04:26:41.173243+00', '{"at": "2026-11-26T04:26:41.17324321Z", "event": "taken", "input": "line-3"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 21, 'replied', '2026-11-26 04:26:41.173243+00', '{"text": "250", "turn": "t_pallets", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 22, 'kept', '2026-11-26 04:26:41.173243+00', '{"turn": "t_pallets", "after": 45, "event": "kept", "field": "fld_pallets", "heard": {"end": 3, "text": "250", "start": 0}, "shown": "250 pallets", "value": {"kind": "number", "amount": "250"}, "before": 27}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 23, 'worked_out', '2026-11-26 04:26:41.173243+00', '{"turn": "t_estimate", "after": 45, "event": "worked_out", "field": "fld_estimate", "shown": "£1,025.00", "value": {"kind": "money", "amount": "1025.00", "currency": "GBP"}, "before": 45}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 24, 'took', '2026-11-26 04:26:41.173243+00', '{"arm": "a_big", "turn": "t_big", "event": "took", "because": "Big frozen load"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 25, 'said', '2026-11-26 04:26:41.173243+00', '{"turn": "t_bigline", "event": "said", "lines": [{"kind": "text", "text": "That is a load our depot leads look after in person."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 26, 'entered', '2026-11-26 04:26:41.173243+00', '{"event": "entered", "section": "who"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 27, 'asked', '2026-11-26 04:26:41.173243+00', '{"text": "What is your part in the decision?", "turn": "t_role", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 32, 'taken', '2026-11-26 04:27:03.173243+00', '{"at": "2026-11-26T04:27:03.17324321Z", "event": "taken", "input": "line-5"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 33, 'replied', '2026-11-26 04:27:03.173243+00', '{"text": "Maud Ekström", "turn": "t_name", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 34, 'kept', '2026-11-26 04:27:03.173243+00', '{"turn": "t_name", "after": 70, "event": "kept", "field": "fld_name", "heard": {"end": 12, "text": "Maud Ekström", "start": 0}, "shown": "Maud Ekström", "value": {"full": "Maud Ekström", "kind": "name", "given": "Maud", "family": "Ekström"}, "before": 70}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 35, 'asked', '2026-11-26 04:27:03.173243+00', '{"text": "And the company?", "turn": "t_company", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 40, 'taken', '2026-11-26 04:27:29.173243+00', '{"at": "2026-11-26T04:27:29.17324321Z", "event": "taken", "input": "line-7"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 41, 'replied', '2026-11-26 04:27:29.173243+00', '{"text": "maud@ekstromberries.example", "turn": "t_email", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 42, 'kept', '2026-11-26 04:27:29.173243+00', '{"turn": "t_email", "after": 70, "event": "kept", "field": "fld_email", "heard": {"end": 27, "text": "maud@ekstromberries.example", "start": 0}, "shown": "maud@ekstromberries.example", "value": {"kind": "text", "text": "maud@ekstromberries.example"}, "before": 70}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 43, 'asked', '2026-11-26 04:27:29.173243+00', '{"text": "And a number to reach you on?", "turn": "t_phone", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 0, 'taken', '2026-11-26 07:45:18.191956+00', '{"at": "2026-11-26T07:45:18.191956543Z", "event": "taken", "input": "start"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 1, 'started', '2026-11-26 07:45:18.191956+00', '{"seed": 2156469060371180, "event": "started", "context": {"page": "/storage", "device": "phone"}, "language": "en"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 2, 'entered', '2026-11-26 07:45:18.191956+00', '{"event": "entered", "section": "welcome"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 3, 'asked', '2026-11-26 07:45:18.191956+00', '{"text": "What can we help you with?", "turn": "t_interest", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 11, 'taken', '2026-11-26 07:45:50.191956+00', '{"at": "2026-11-26T07:45:50.191956543Z", "event": "taken", "input": "line-1"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 12, 'replied', '2026-11-26 07:45:50.191956+00', '{"text": "frozen", "turn": "t_temperature", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 13, 'kept', '2026-11-26 07:45:50.191956+00', '{"turn": "t_temperature", "after": 15, "event": "kept", "field": "fld_temperature", "heard": {"end": 6, "text": "frozen", "start": 0}, "shown": "Frozen", "value": {"key": "frozen", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 14, 'took', '2026-11-26 07:45:50.191956+00', '{"arm": "a_frozen", "turn": "t_temperature", "event": "took", "because": "Frozen"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 15, 'asked', '2026-11-26 07:45:50.191956+00', '{"text": "Does any of it need blast freezing first?", "turn": "t_blast", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 20, 'taken', '2026-11-26 07:46:08.191956+00', '{"at": "2026-11-26T07:46:08.191956543Z", "event": "taken", "input": "line-3"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 21, 'replied', '2026-11-26 07:46:08.191956+00', '{"text": "8", "turn": "t_pallets", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 22, 'kept', '2026-11-26 07:46:08.191956+00', '{"turn": "t_pallets", "after": 15, "event": "kept", "field": "fld_pallets", "heard": {"end": 1, "text": "8", "start": 0}, "shown": "8 pallets", "value": {"kind": "number", "amount": "8"}, "before": 15}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 23, 'worked_out', '2026-11-26 07:46:08.191956+00', '{"turn": "t_estimate", "after": 15, "event": "worked_out", "field": "fld_estimate", "shown": "£32.80", "value": {"kind": "money", "amount": "32.80", "currency": "GBP"}, "before": 15}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 24, 'took', '2026-11-26 07:46:08.191956+00', '{"arm": "a_usual", "turn": "t_big", "event": "took", "because": "otherwise"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 25, 'entered', '2026-11-26 07:46:08.191956+00', '{"event": "entered", "section": "timing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 26, 'said', '2026-11-26 07:46:08.191956+00', '{"turn": "t_price", "event": "said", "lines": [{"kind": "text", "text": "For 8 pallets we would expect about £32.80 a week, handling included."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 47, 'filed', '2026-11-26 04:27:42.173243+00', '{"turn": "t_file", "event": "filed", "score": {"band": "hot", "total": 70, "unknown": ["c_soon", "c_half"], "band_from": 70, "scorecard": "fit", "band_label": "Hot", "dimensions": [{"id": "need", "sum": 52, "title": "Need", "counts": 45, "ceiling": 45, "criteria": [{"id": "c_frozen", "label": "Temperature is Frozen", "points": 15}, {"id": "c_blast", "label": "Blast freezing is yes", "points": 12}, {"id": "c_pallets", "label": "Pallets 250", "points": 25}]}, {"id": "authority", "sum": 25, "title": "Authority", "counts": 25, "ceiling": 25, "criteria": [{"id": "c_owner", "label": "Role is Owner or director", "points": 25}, {"id": "c_quotes", "label": "Role is Gathering quotes", "points": 0}]}, {"id": "timing", "sum": 0, "title": "Timing", "counts": 0, "ceiling": 25, "criteria": [{"id": "c_soon", "label": "Start is Within 8 weeks", "points": 0, "unknown": true}, {"id": "c_half", "label": "Start is In 9 to 26 weeks", "points": 0, "unknown": true}]}], "band_by_points": "hot"}, "filing": 1, "decision": {"queue": "senior", "steps": ["Band is hot: queue senior"]}}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 48, 'took', '2026-11-26 04:27:42.173243+00', '{"arm": "a_hot", "turn": "t_file", "event": "took", "because": "Hot"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 49, 'said', '2026-11-26 04:27:42.173243+00', '{"turn": "t_hotline", "event": "said", "lines": [{"kind": "text", "text": "Thank you, Maud. Somebody from the depot calls you today."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadd-723f-af31-bd564f0fb82c', 50, 'closed', '2026-11-26 04:27:42.173243+00', '{"turn": "t_end_lead", "event": "closed", "lines": [{"kind": "text", "text": "Have a good day."}], "outcome": "lead"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 4, 'taken', '2026-11-26 07:45:30.191956+00', '{"at": "2026-11-26T07:45:30.191956543Z", "event": "taken", "input": "line-0"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 5, 'replied', '2026-11-26 07:45:30.191956+00', '{"text": "storage", "turn": "t_interest", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 6, 'kept', '2026-11-26 07:45:30.191956+00', '{"turn": "t_interest", "after": 0, "event": "kept", "field": "fld_interest", "heard": {"end": 7, "text": "storage", "start": 0}, "shown": "Cold storage", "value": {"key": "storage", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 7, 'took', '2026-11-26 07:45:30.191956+00', '{"arm": "a_storage", "turn": "t_interest", "event": "took", "because": "Cold storage or Blast freezing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 8, 'entered', '2026-11-26 07:45:30.191956+00', '{"event": "entered", "section": "load"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 9, 'said', '2026-11-26 07:45:30.191956+00', '{"turn": "t_load", "event": "said", "lines": [{"kind": "text", "text": "A few questions about what you need to keep cold."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 10, 'asked', '2026-11-26 07:45:30.191956+00', '{"text": "How cold does it have to be?", "turn": "t_temperature", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 16, 'taken', '2026-11-26 07:45:58.191956+00', '{"at": "2026-11-26T07:45:58.191956543Z", "event": "taken", "input": "line-2"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 17, 'replied', '2026-11-26 07:45:58.191956+00', '{"text": "no", "turn": "t_blast", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 18, 'kept', '2026-11-26 07:45:58.191956+00', '{"turn": "t_blast", "after": 15, "event": "kept", "field": "fld_blast", "heard": {"end": 2, "text": "no", "start": 0}, "shown": "No", "value": {"yes": false, "kind": "yes_no"}, "before": 15}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 19, 'asked', '2026-11-26 07:45:58.191956+00', '{"text": "Roughly how many pallets at your busiest?", "turn": "t_pallets", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 28, 'taken', '2026-11-26 07:46:30.191956+00', '{"at": "2026-11-26T07:46:30.191956543Z", "event": "taken", "input": "line-4"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 29, 'replied', '2026-11-26 07:46:30.191956+00', '{"text": "I don’t know yet", "turn": "t_start", "event": "replied", "picked": true}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 30, 'left_open', '2026-11-26 07:46:30.191956+00', '{"why": "skipped", "turn": "t_start", "event": "left_open", "field": "fld_start", "missing": "skipped"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 31, 'entered', '2026-11-26 07:46:30.191956+00', '{"event": "entered", "section": "who"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 32, 'asked', '2026-11-26 07:46:30.191956+00', '{"text": "What is your part in the decision?", "turn": "t_role", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 37, 'taken', '2026-11-26 07:47:03.191956+00', '{"at": "2026-11-26T07:47:03.191956543Z", "event": "taken", "input": "line-6"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 38, 'replied', '2026-11-26 07:47:03.191956+00', '{"text": "Jon Petrie", "turn": "t_name", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 39, 'kept', '2026-11-26 07:47:03.191956+00', '{"turn": "t_name", "after": 15, "event": "kept", "field": "fld_name", "heard": {"end": 10, "text": "Jon Petrie", "start": 0}, "shown": "Jon Petrie", "value": {"full": "Jon Petrie", "kind": "name", "given": "Jon", "family": "Petrie"}, "before": 15}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 40, 'asked', '2026-11-26 07:47:03.191956+00', '{"text": "And the company?", "turn": "t_company", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 45, 'taken', '2026-11-26 07:47:48.191956+00', '{"at": "2026-11-26T07:47:48.191956543Z", "event": "taken", "input": "line-8"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 46, 'replied', '2026-11-26 07:47:48.191956+00', '{"text": "jon@petrie.example", "turn": "t_email", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 47, 'kept', '2026-11-26 07:47:48.191956+00', '{"turn": "t_email", "after": 15, "event": "kept", "field": "fld_email", "heard": {"end": 18, "text": "jon@petrie.example", "start": 0}, "shown": "jon@petrie.example", "value": {"kind": "text", "text": "jon@petrie.example"}, "before": 15}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 48, 'asked', '2026-11-26 07:47:48.191956+00', '{"text": "And a number to reach you on?", "turn": "t_phone", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 0, 'taken', '2026-11-26 19:25:18.21715+00', '{"at": "2026-11-26T19:25:18.217150848Z", "event": "taken", "input": "start"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 1, 'started', '2026-11-26 19:25:18.21715+00', '{"seed": 4177526876344260, "event": "started", "context": {"page": "/storage", "device": "phone"}, "language": "en"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 2, 'entered', '2026-11-26 19:25:18.21715+00', '{"event": "entered", "section": "welcome"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 3, 'asked', '2026-11-26 19:25:18.21715+00', '{"text": "What can we help you with?", "turn": "t_interest", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 11, 'taken', '2026-11-26 19:25:41.21715+00', '{"at": "2026-11-26T19:25:41.217150848Z", "event": "taken", "input": "line-1"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 12, 'replied', '2026-11-26 19:25:41.21715+00', '{"text": "chilled", "turn": "t_temperature", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 33, 'taken', '2026-11-26 07:46:41.191956+00', '{"at": "2026-11-26T07:46:41.191956543Z", "event": "taken", "input": "line-5"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 34, 'replied', '2026-11-26 07:46:41.191956+00', '{"text": "rather not", "turn": "t_role", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 35, 'left_open', '2026-11-26 07:46:41.191956+00', '{"why": "declined", "turn": "t_role", "event": "left_open", "field": "fld_role", "missing": "declined"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 36, 'asked', '2026-11-26 07:46:41.191956+00', '{"text": "Who should we ask for?", "turn": "t_name", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 41, 'taken', '2026-11-26 07:47:26.191956+00', '{"at": "2026-11-26T07:47:26.191956543Z", "event": "taken", "input": "line-7"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 42, 'replied', '2026-11-26 07:47:26.191956+00', '{"text": "none of your business really", "turn": "t_company", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 43, 'left_open', '2026-11-26 07:47:26.191956+00', '{"why": "declined", "turn": "t_company", "event": "left_open", "field": "fld_company", "missing": "declined"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 44, 'asked', '2026-11-26 07:47:26.191956+00', '{"text": "Which address at your company should we send the estimate to?", "turn": "t_email", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 49, 'taken', '2026-11-26 07:48:11.191956+00', '{"at": "2026-11-26T07:48:11.191956543Z", "event": "taken", "input": "line-9"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 50, 'replied', '2026-11-26 07:48:11.191956+00', '{"text": "E-mail is enough", "turn": "t_phone", "event": "replied", "picked": true}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 51, 'left_open', '2026-11-26 07:48:11.191956+00', '{"why": "skipped", "turn": "t_phone", "event": "left_open", "field": "fld_phone", "missing": "skipped"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 52, 'filed', '2026-11-26 07:48:11.191956+00', '{"turn": "t_file", "event": "filed", "score": {"band": "nurture", "total": 15, "unknown": ["c_owner", "c_quotes", "c_soon", "c_half"], "scorecard": "fit", "band_label": "Nurture", "dimensions": [{"id": "need", "sum": 15, "title": "Need", "counts": 15, "ceiling": 45, "criteria": [{"id": "c_frozen", "label": "Temperature is Frozen", "points": 15}, {"id": "c_blast", "label": "Blast freezing is yes", "points": 0}, {"id": "c_pallets", "label": "Pallets", "points": 0}]}, {"id": "authority", "sum": 0, "title": "Authority", "counts": 0, "ceiling": 25, "criteria": [{"id": "c_owner", "label": "Role is Owner or director", "points": 0, "unknown": true}, {"id": "c_quotes", "label": "Role is Gathering quotes", "points": 0, "unknown": true}]}, {"id": "timing", "sum": 0, "title": "Timing", "counts": 0, "ceiling": 25, "criteria": [{"id": "c_soon", "label": "Start is Within 8 weeks", "points": 0, "unknown": true}, {"id": "c_half", "label": "Start is In 9 to 26 weeks", "points": 0, "unknown": true}]}], "band_by_points": "nurture"}, "filing": 1, "decision": {"queue": "aldermoor", "steps": ["Band is hot: does not hold", "Temperature is Chilled: does not hold", "otherwise: queue aldermoor"]}}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 53, 'took', '2026-11-26 07:48:11.191956+00', '{"arm": "a_nurture", "turn": "t_file", "event": "took", "because": "otherwise"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 54, 'said', '2026-11-26 07:48:11.191956+00', '{"turn": "t_nurtureline", "event": "said", "lines": [{"kind": "text", "text": "Thank you, Jon. We send you our rates and a guide to packing for the cold."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', 55, 'closed', '2026-11-26 07:48:11.191956+00', '{"turn": "t_end_lead", "event": "closed", "lines": [{"kind": "text", "text": "Have a good day."}], "outcome": "lead"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 4, 'taken', '2026-11-26 19:25:28.21715+00', '{"at": "2026-11-26T19:25:28.217150848Z", "event": "taken", "input": "line-0"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 5, 'replied', '2026-11-26 19:25:28.21715+00', '{"text": "storage", "turn": "t_interest", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 6, 'kept', '2026-11-26 19:25:28.21715+00', '{"turn": "t_interest", "after": 0, "event": "kept", "field": "fld_interest", "heard": {"end": 7, "text": "storage", "start": 0}, "shown": "Cold storage", "value": {"key": "storage", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 7, 'took', '2026-11-26 19:25:28.21715+00', '{"arm": "a_storage", "turn": "t_interest", "event": "took", "because": "Cold storage or Blast freezing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 8, 'entered', '2026-11-26 19:25:28.21715+00', '{"event": "entered", "section": "load"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 9, 'said', '2026-11-26 19:25:28.21715+00', '{"turn": "t_load", "event": "said", "lines": [{"kind": "text", "text": "A few questions about what you need to keep cold."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 10, 'asked', '2026-11-26 19:25:28.21715+00', '{"text": "How cold does it have to be?", "turn": "t_temperature", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 16, 'taken', '2026-11-26 19:25:56.21715+00', '{"at": "2026-11-26T19:25:56.217150848Z", "event": "taken", "input": "line-2"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 17, 'replied', '2026-11-26 19:25:56.21715+00', '{"text": "loads", "turn": "t_pallets", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 18, 'not_kept', '2026-11-26 19:25:56.21715+00', '{"of": 3, "turn": "t_pallets", "event": "not_kept", "field": "fld_pallets", "failed": ["type"], "attempt": 1, "message": "Just a number is fine, for example 120."}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 22, 'taken', '2026-11-26 19:26:19.21715+00', '{"at": "2026-11-26T19:26:19.217150848Z", "event": "taken", "input": "line-4"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 23, 'replied', '2026-11-26 19:26:19.21715+00', '{"text": "many", "turn": "t_pallets", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 24, 'not_kept', '2026-11-26 19:26:19.21715+00', '{"of": 3, "turn": "t_pallets", "event": "not_kept", "field": "fld_pallets", "failed": ["type"], "attempt": 3, "message": "A rough guess is enough: 50? 200?"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 25, 'left_open', '2026-11-26 19:26:19.21715+00', '{"why": "tries", "turn": "t_pallets", "event": "left_open", "field": "fld_pallets", "missing": "not_readable"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 26, 'entered', '2026-11-26 19:26:19.21715+00', '{"event": "entered", "section": "who"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 27, 'asked', '2026-11-26 19:26:19.21715+00', '{"text": "What is your part in the decision?", "turn": "t_role", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 4, 'taken', '2026-11-27 05:45:34.22486+00', '{"at": "2026-11-27T05:45:34.224860784Z", "event": "taken", "input": "line-0"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 5, 'replied', '2026-11-27 05:45:34.22486+00', '{"text": "storage", "turn": "t_interest", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 6, 'kept', '2026-11-27 05:45:34.22486+00', '{"turn": "t_interest", "after": 0, "event": "kept", "field": "fld_interest", "heard": {"end": 7, "text": "storage", "start": 0}, "shown": "Cold storage", "value": {"key": "storage", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 13, 'kept', '2026-11-26 19:25:41.21715+00', '{"turn": "t_temperature", "after": 0, "event": "kept", "field": "fld_temperature", "heard": {"end": 7, "text": "chilled", "start": 0}, "shown": "Chilled", "value": {"key": "chilled", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 14, 'took', '2026-11-26 19:25:41.21715+00', '{"arm": "a_chilled", "turn": "t_temperature", "event": "took", "because": "Chilled"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 15, 'asked', '2026-11-26 19:25:41.21715+00', '{"text": "Roughly how many pallets at your busiest?", "turn": "t_pallets", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 19, 'taken', '2026-11-26 19:26:10.21715+00', '{"at": "2026-11-26T19:26:10.217150848Z", "event": "taken", "input": "line-3"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 20, 'replied', '2026-11-26 19:26:10.21715+00', '{"text": "lots and lots", "turn": "t_pallets", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb09-76ed-a4f3-45f9387d07ba', 21, 'not_kept', '2026-11-26 19:26:10.21715+00', '{"of": 3, "turn": "t_pallets", "event": "not_kept", "field": "fld_pallets", "failed": ["type"], "attempt": 2, "message": "A rough guess is enough: 50? 200?"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 0, 'taken', '2026-11-27 05:45:18.22486+00', '{"at": "2026-11-27T05:45:18.224860784Z", "event": "taken", "input": "start"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 1, 'started', '2026-11-27 05:45:18.22486+00', '{"seed": 2883122079526705, "event": "started", "context": {"page": "/storage", "device": "phone"}, "language": "en"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 2, 'entered', '2026-11-27 05:45:18.22486+00', '{"event": "entered", "section": "welcome"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 3, 'asked', '2026-11-27 05:45:18.22486+00', '{"text": "What can we help you with?", "turn": "t_interest", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 11, 'taken', '2026-11-27 05:45:47.22486+00', '{"at": "2026-11-27T05:45:47.224860784Z", "event": "taken", "input": "line-1"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 12, 'replied', '2026-11-27 05:45:47.22486+00', '{"text": "chilled", "turn": "t_temperature", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 13, 'kept', '2026-11-27 05:45:47.22486+00', '{"turn": "t_temperature", "after": 0, "event": "kept", "field": "fld_temperature", "heard": {"end": 7, "text": "chilled", "start": 0}, "shown": "Chilled", "value": {"key": "chilled", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 14, 'took', '2026-11-27 05:45:47.22486+00', '{"arm": "a_chilled", "turn": "t_temperature", "event": "took", "because": "Chilled"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 15, 'asked', '2026-11-27 05:45:47.22486+00', '{"text": "Roughly how many pallets at your busiest?", "turn": "t_pallets", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 24, 'taken', '2026-11-27 05:46:13.22486+00', '{"at": "2026-11-27T05:46:13.224860784Z", "event": "taken", "input": "line-3"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 25, 'replied', '2026-11-27 05:46:13.22486+00', '{"text": "spring", "turn": "t_start", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 26, 'kept', '2026-11-27 05:46:13.22486+00', '{"turn": "t_start", "after": 20, "event": "kept", "field": "fld_start", "heard": {"end": 6, "text": "spring", "start": 0}, "shown": "In 9 to 26 weeks", "value": {"key": "half_year", "kind": "choice"}, "before": 10}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 27, 'entered', '2026-11-27 05:46:13.22486+00', '{"event": "entered", "section": "who"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 28, 'asked', '2026-11-27 05:46:13.22486+00', '{"text": "What is your part in the decision?", "turn": "t_role", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 33, 'taken', '2026-11-27 05:46:40.22486+00', '{"at": "2026-11-27T05:46:40.224860784Z", "event": "taken", "input": "line-5"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 34, 'replied', '2026-11-27 05:46:40.22486+00', '{"text": "Ivo Brandt", "turn": "t_name", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 35, 'kept', '2026-11-27 05:46:40.22486+00', '{"turn": "t_name", "after": 20, "event": "kept", "field": "fld_name", "heard": {"end": 10, "text": "Ivo Brandt", "start": 0}, "shown": "Ivo Brandt", "value": {"full": "Ivo Brandt", "kind": "name", "given": "Ivo", "family": "Brandt"}, "before": 20}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 36, 'asked', '2026-11-27 05:46:40.22486+00', '{"text": "And the company?", "turn": "t_company", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 41, 'taken', '2026-11-27 05:47:08.22486+00', '{"at": "2026-11-27T05:47:08.224860784Z", "event": "taken", "input": "line-7"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 42, 'replied', '2026-11-27 05:47:08.22486+00', '{"text": "ivo@mossfield.example", "turn": "t_email", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 43, 'kept', '2026-11-27 05:47:08.22486+00', '{"turn": "t_email", "after": 20, "event": "kept", "field": "fld_email", "heard": {"end": 21, "text": "ivo@mossfield.example", "start": 0}, "shown": "ivo@mossfield.example", "value": {"kind": "text", "text": "ivo@mossfield.example"}, "before": 20}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 44, 'asked', '2026-11-27 05:47:08.22486+00', '{"text": "And a number to reach you on?", "turn": "t_phone", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 0, 'taken', '2026-11-27 07:05:18.242822+00', '{"at": "2026-11-27T07:05:18.242822555Z", "event": "taken", "input": "start"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 1, 'started', '2026-11-27 07:05:18.242822+00', '{"seed": 962563010189340, "event": "started", "context": {"page": "/storage", "device": "phone"}, "language": "en"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 2, 'entered', '2026-11-27 07:05:18.242822+00', '{"event": "entered", "section": "welcome"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 3, 'asked', '2026-11-27 07:05:18.242822+00', '{"text": "What can we help you with?", "turn": "t_interest", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 11, 'taken', '2026-11-27 07:05:59.242822+00', '{"at": "2026-11-27T07:05:59.242822555Z", "event": "taken", "input": "line-1"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 12, 'replied', '2026-11-27 07:05:59.242822+00', '{"text": "frozen", "turn": "t_temperature", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 13, 'kept', '2026-11-27 07:05:59.242822+00', '{"turn": "t_temperature", "after": 15, "event": "kept", "field": "fld_temperature", "heard": {"end": 6, "text": "frozen", "start": 0}, "shown": "Frozen", "value": {"key": "frozen", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 14, 'took', '2026-11-27 07:05:59.242822+00', '{"arm": "a_frozen", "turn": "t_temperature", "event": "took", "because": "Frozen"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 15, 'asked', '2026-11-27 07:05:59.242822+00', '{"text": "Does any of it need blast freezing first?", "turn": "t_blast", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 20, 'taken', '2026-11-27 07:06:19.242822+00', '{"at": "2026-11-27T07:06:19.242822555Z", "event": "taken", "input": "line-3"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 21, 'replied', '2026-11-27 07:06:19.242822+00', '{"text": "90", "turn": "t_pallets", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 7, 'took', '2026-11-27 05:45:34.22486+00', '{"arm": "a_storage", "turn": "t_interest", "event": "took", "because": "Cold storage or Blast freezing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 8, 'entered', '2026-11-27 05:45:34.22486+00', '{"event": "entered", "section": "load"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 9, 'said', '2026-11-27 05:45:34.22486+00', '{"turn": "t_load", "event": "said", "lines": [{"kind": "text", "text": "A few questions about what you need to keep cold."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 10, 'asked', '2026-11-27 05:45:34.22486+00', '{"text": "How cold does it have to be?", "turn": "t_temperature", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 16, 'taken', '2026-11-27 05:45:53.22486+00', '{"at": "2026-11-27T05:45:53.224860784Z", "event": "taken", "input": "line-2"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 17, 'replied', '2026-11-27 05:45:53.22486+00', '{"text": "70", "turn": "t_pallets", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 18, 'kept', '2026-11-27 05:45:53.22486+00', '{"turn": "t_pallets", "after": 10, "event": "kept", "field": "fld_pallets", "heard": {"end": 2, "text": "70", "start": 0}, "shown": "70 pallets", "value": {"kind": "number", "amount": "70"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 19, 'worked_out', '2026-11-27 05:45:53.22486+00', '{"turn": "t_estimate", "after": 10, "event": "worked_out", "field": "fld_estimate", "shown": "£234.50", "value": {"kind": "money", "amount": "234.50", "currency": "GBP"}, "before": 10}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 20, 'took', '2026-11-27 05:45:53.22486+00', '{"arm": "a_usual", "turn": "t_big", "event": "took", "because": "otherwise"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 21, 'entered', '2026-11-27 05:45:53.22486+00', '{"event": "entered", "section": "timing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 22, 'said', '2026-11-27 05:45:53.22486+00', '{"turn": "t_price", "event": "said", "lines": [{"kind": "text", "text": "For 70 pallets we would expect about £234.50 a week, handling included."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 23, 'asked', '2026-11-27 05:45:53.22486+00', '{"text": "When would the first pallets arrive?", "turn": "t_start", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 29, 'taken', '2026-11-27 05:46:31.22486+00', '{"at": "2026-11-27T05:46:31.224860784Z", "event": "taken", "input": "line-4"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 30, 'replied', '2026-11-27 05:46:31.22486+00', '{"text": "manager", "turn": "t_role", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 31, 'kept', '2026-11-27 05:46:31.22486+00', '{"turn": "t_role", "after": 20, "event": "kept", "field": "fld_role", "heard": {"end": 7, "text": "manager", "start": 0}, "shown": "Manager", "value": {"key": "manager", "kind": "choice"}, "before": 20}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 32, 'asked', '2026-11-27 05:46:31.22486+00', '{"text": "Who should we ask for?", "turn": "t_name", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 37, 'taken', '2026-11-27 05:46:57.22486+00', '{"at": "2026-11-27T05:46:57.224860784Z", "event": "taken", "input": "line-6"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 38, 'replied', '2026-11-27 05:46:57.22486+00', '{"text": "Mossfield Dairy", "turn": "t_company", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 39, 'kept', '2026-11-27 05:46:57.22486+00', '{"turn": "t_company", "after": 20, "event": "kept", "field": "fld_company", "heard": {"end": 15, "text": "Mossfield Dairy", "start": 0}, "shown": "Mossfield Dairy", "value": {"kind": "text", "text": "Mossfield Dairy"}, "before": 20}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 40, 'asked', '2026-11-27 05:46:57.22486+00', '{"text": "Which address at Mossfield Dairy should we send the estimate to?", "turn": "t_email", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 45, 'taken', '2026-11-27 05:47:22.22486+00', '{"at": "2026-11-27T05:47:22.224860784Z", "event": "taken", "input": "line-8"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 46, 'replied', '2026-11-27 05:47:22.22486+00', '{"text": "020 7946 0511", "turn": "t_phone", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 47, 'kept', '2026-11-27 05:47:22.22486+00', '{"turn": "t_phone", "after": 20, "event": "kept", "field": "fld_phone", "heard": {"end": 13, "text": "020 7946 0511", "start": 0}, "shown": "+44 20 7946 0511", "value": {"kind": "phone", "number": "+442079460511"}, "before": 20}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 48, 'filed', '2026-11-27 05:47:22.22486+00', '{"turn": "t_file", "event": "filed", "score": {"band": "nurture", "total": 20, "unknown": ["c_blast"], "scorecard": "fit", "band_label": "Nurture", "dimensions": [{"id": "need", "sum": 10, "title": "Need", "counts": 10, "ceiling": 45, "criteria": [{"id": "c_frozen", "label": "Temperature is Frozen", "points": 0}, {"id": "c_blast", "label": "Blast freezing is yes", "points": 0, "unknown": true}, {"id": "c_pallets", "label": "Pallets 70", "points": 10}]}, {"id": "authority", "sum": 0, "title": "Authority", "counts": 0, "ceiling": 25, "criteria": [{"id": "c_owner", "label": "Role is Owner or director", "points": 0}, {"id": "c_quotes", "label": "Role is Gathering quotes", "points": 0}]}, {"id": "timing", "sum": 10, "title": "Timing", "counts": 10, "ceiling": 25, "criteria": [{"id": "c_soon", "label": "Start is Within 8 weeks", "points": 0}, {"id": "c_half", "label": "Start is In 9 to 26 weeks", "points": 10}]}], "band_by_points": "nurture"}, "filing": 1, "decision": {"queue": "saltwick", "steps": ["Band is hot: does not hold", "Temperature is Chilled: queue saltwick"]}}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 49, 'took', '2026-11-27 05:47:22.22486+00', '{"arm": "a_nurture", "turn": "t_file", "event": "took", "because": "otherwise"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 50, 'said', '2026-11-27 05:47:22.22486+00', '{"turn": "t_nurtureline", "event": "said", "lines": [{"kind": "text", "text": "Thank you, Ivo. We send you our rates and a guide to packing for the cold."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb11-713e-a330-4b0f36678d87', 51, 'closed', '2026-11-27 05:47:22.22486+00', '{"turn": "t_end_lead", "event": "closed", "lines": [{"kind": "text", "text": "Have a good day."}], "outcome": "lead"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 4, 'taken', '2026-11-27 07:05:41.242822+00', '{"at": "2026-11-27T07:05:41.242822555Z", "event": "taken", "input": "line-0"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 5, 'replied', '2026-11-27 07:05:41.242822+00', '{"text": "storage", "turn": "t_interest", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 6, 'kept', '2026-11-27 07:05:41.242822+00', '{"turn": "t_interest", "after": 0, "event": "kept", "field": "fld_interest", "heard": {"end": 7, "text": "storage", "start": 0}, "shown": "Cold storage", "value": {"key": "storage", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 7, 'took', '2026-11-27 07:05:41.242822+00', '{"arm": "a_storage", "turn": "t_interest", "event": "took", "because": "Cold storage or Blast freezing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 8, 'entered', '2026-11-27 07:05:41.242822+00', '{"event": "entered", "section": "load"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 9, 'said', '2026-11-27 07:05:41.242822+00', '{"turn": "t_load", "event": "said", "lines": [{"kind": "text", "text": "A few quick questions about your load."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 10, 'asked', '2026-11-27 07:05:41.242822+00', '{"text": "How cold does it have to be?", "turn": "t_temperature", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 16, 'taken', '2026-11-27 07:06:11.242822+00', '{"at": "2026-11-27T07:06:11.242822555Z", "event": "taken", "input": "line-2"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 17, 'replied', '2026-11-27 07:06:11.242822+00', '{"text": "some, yes", "turn": "t_blast", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 18, 'kept', '2026-11-27 07:06:11.242822+00', '{"turn": "t_blast", "after": 27, "event": "kept", "field": "fld_blast", "heard": {"end": 4, "text": "some", "start": 0}, "shown": "Yes", "value": {"yes": true, "kind": "yes_no"}, "before": 15}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 19, 'asked', '2026-11-27 07:06:11.242822+00', '{"text": "Roughly how many pallets at your busiest?", "turn": "t_pallets", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 28, 'taken', '2026-11-27 07:06:31.242822+00', '{"at": "2026-11-27T07:06:31.242822555Z", "event": "taken", "input": "line-4"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 29, 'replied', '2026-11-27 07:06:31.242822+00', '{"text": "soon", "turn": "t_start", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 30, 'kept', '2026-11-27 07:06:31.242822+00', '{"turn": "t_start", "after": 62, "event": "kept", "field": "fld_start", "heard": {"end": 4, "text": "soon", "start": 0}, "shown": "Within 8 weeks", "value": {"key": "soon", "kind": "choice"}, "before": 37}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 31, 'entered', '2026-11-27 07:06:31.242822+00', '{"event": "entered", "section": "who"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 32, 'asked', '2026-11-27 07:06:31.242822+00', '{"text": "What is your part in the decision?", "turn": "t_role", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 37, 'taken', '2026-11-27 07:07:01.242822+00', '{"at": "2026-11-27T07:07:01.242822555Z", "event": "taken", "input": "line-6"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 38, 'replied', '2026-11-27 07:07:01.242822+00', '{"text": "Ada Moreno", "turn": "t_name", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 39, 'kept', '2026-11-27 07:07:01.242822+00', '{"turn": "t_name", "after": 87, "event": "kept", "field": "fld_name", "heard": {"end": 10, "text": "Ada Moreno", "start": 0}, "shown": "Ada Moreno", "value": {"full": "Ada Moreno", "kind": "name", "given": "Ada", "family": "Moreno"}, "before": 87}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 40, 'asked', '2026-11-27 07:07:01.242822+00', '{"text": "And the company?", "turn": "t_company", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 45, 'taken', '2026-11-27 07:07:37.242822+00', '{"at": "2026-11-27T07:07:37.242822555Z", "event": "taken", "input": "line-8"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 46, 'replied', '2026-11-27 07:07:37.242822+00', '{"text": "ada@blueheron.example", "turn": "t_email", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 47, 'kept', '2026-11-27 07:07:37.242822+00', '{"turn": "t_email", "after": 87, "event": "kept", "field": "fld_email", "heard": {"end": 21, "text": "ada@blueheron.example", "start": 0}, "shown": "ada@blueheron.example", "value": {"kind": "text", "text": "ada@blueheron.example"}, "before": 87}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 48, 'asked', '2026-11-27 07:07:37.242822+00', '{"text": "And a number to reach you on?", "turn": "t_phone", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 0, 'taken', '2026-11-27 18:15:18.263281+00', '{"at": "2026-11-27T18:15:18.263281485Z", "event": "taken", "input": "start"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 1, 'started', '2026-11-27 18:15:18.263281+00', '{"seed": 1821886493989295, "event": "started", "context": {"page": "/storage", "device": "phone"}, "language": "en"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 2, 'entered', '2026-11-27 18:15:18.263281+00', '{"event": "entered", "section": "welcome"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 3, 'asked', '2026-11-27 18:15:18.263281+00', '{"text": "What can we help you with?", "turn": "t_interest", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 11, 'taken', '2026-11-27 18:15:51.263281+00', '{"at": "2026-11-27T18:15:51.263281485Z", "event": "taken", "input": "line-1"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 12, 'replied', '2026-11-27 18:15:51.263281+00', '{"text": "frozen", "turn": "t_temperature", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 13, 'kept', '2026-11-27 18:15:51.263281+00', '{"turn": "t_temperature", "after": 15, "event": "kept", "field": "fld_temperature", "heard": {"end": 6, "text": "frozen", "start": 0}, "shown": "Frozen", "value": {"key": "frozen", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 14, 'took', '2026-11-27 18:15:51.263281+00', '{"arm": "a_frozen", "turn": "t_temperature", "event": "took", "because": "Frozen"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 15, 'asked', '2026-11-27 18:15:51.263281+00', '{"text": "Does any of it need blast freezing first?", "turn": "t_blast", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 20, 'taken', '2026-11-27 18:16:09.263281+00', '{"at": "2026-11-27T18:16:09.263281485Z", "event": "taken", "input": "line-3"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 21, 'replied', '2026-11-27 18:16:09.263281+00', '{"text": "3", "turn": "t_pallets", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 22, 'kept', '2026-11-27 18:16:09.263281+00', '{"turn": "t_pallets", "after": 15, "event": "kept", "field": "fld_pallets", "heard": {"end": 1, "text": "3", "start": 0}, "shown": "3 pallets", "value": {"kind": "number", "amount": "3"}, "before": 15}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 23, 'took', '2026-11-27 18:16:09.263281+00', '{"arm": "a_tiny", "turn": "t_pallets", "event": "took", "because": "Under 5 pallets"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 24, 'entered', '2026-11-27 18:16:09.263281+00', '{"event": "entered", "section": "small"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 25, 'said', '2026-11-27 18:16:09.263281+00', '{"turn": "t_small", "event": "said", "lines": [{"kind": "text", "text": "Our smallest bay holds 5 pallets. For fewer, the growers’ co-op shares a cold room by the shelf."}, {"url": "https://shelves.winterlode.example/", "kind": "link", "label": "See the shared cold room"}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 26, 'closed', '2026-11-27 18:16:09.263281+00', '{"turn": "t_end_small", "event": "closed", "lines": [{"kind": "text", "text": "Thank you for asking."}], "outcome": "not_a_fit"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 22, 'kept', '2026-11-27 07:06:19.242822+00', '{"turn": "t_pallets", "after": 37, "event": "kept", "field": "fld_pallets", "heard": {"end": 2, "text": "90", "start": 0}, "shown": "90 pallets", "value": {"kind": "number", "amount": "90"}, "before": 27}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 23, 'worked_out', '2026-11-27 07:06:19.242822+00', '{"turn": "t_estimate", "after": 37, "event": "worked_out", "field": "fld_estimate", "shown": "£369.00", "value": {"kind": "money", "amount": "369.00", "currency": "GBP"}, "before": 37}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 24, 'took', '2026-11-27 07:06:19.242822+00', '{"arm": "a_usual", "turn": "t_big", "event": "took", "because": "otherwise"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 25, 'entered', '2026-11-27 07:06:19.242822+00', '{"event": "entered", "section": "timing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 26, 'said', '2026-11-27 07:06:19.242822+00', '{"turn": "t_price", "event": "said", "lines": [{"kind": "text", "text": "For 90 pallets we would expect about £369.00 a week, handling included."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 27, 'asked', '2026-11-27 07:06:19.242822+00', '{"text": "When would the first pallets arrive?", "turn": "t_start", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 33, 'taken', '2026-11-27 07:06:55.242822+00', '{"at": "2026-11-27T07:06:55.242822555Z", "event": "taken", "input": "line-5"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 34, 'replied', '2026-11-27 07:06:55.242822+00', '{"text": "owner", "turn": "t_role", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 35, 'kept', '2026-11-27 07:06:55.242822+00', '{"turn": "t_role", "after": 87, "event": "kept", "field": "fld_role", "heard": {"end": 5, "text": "owner", "start": 0}, "shown": "Owner or director", "value": {"key": "owner", "kind": "choice"}, "before": 62}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 36, 'asked', '2026-11-27 07:06:55.242822+00', '{"text": "Who should we ask for?", "turn": "t_name", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 41, 'taken', '2026-11-27 07:07:15.242822+00', '{"at": "2026-11-27T07:07:15.242822555Z", "event": "taken", "input": "line-7"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 42, 'replied', '2026-11-27 07:07:15.242822+00', '{"text": "Blue Heron Ices", "turn": "t_company", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 43, 'kept', '2026-11-27 07:07:15.242822+00', '{"turn": "t_company", "after": 87, "event": "kept", "field": "fld_company", "heard": {"end": 15, "text": "Blue Heron Ices", "start": 0}, "shown": "Blue Heron Ices", "value": {"kind": "text", "text": "Blue Heron Ices"}, "before": 87}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 44, 'asked', '2026-11-27 07:07:15.242822+00', '{"text": "Which address at Blue Heron Ices should we send the estimate to?", "turn": "t_email", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 49, 'taken', '2026-11-27 07:07:55.242822+00', '{"at": "2026-11-27T07:07:55.242822555Z", "event": "taken", "input": "line-9"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 50, 'replied', '2026-11-27 07:07:55.242822+00', '{"text": "020 7946 0467", "turn": "t_phone", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 51, 'kept', '2026-11-27 07:07:55.242822+00', '{"turn": "t_phone", "after": 87, "event": "kept", "field": "fld_phone", "heard": {"end": 13, "text": "020 7946 0467", "start": 0}, "shown": "+44 20 7946 0467", "value": {"kind": "phone", "number": "+442079460467"}, "before": 87}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 52, 'filed', '2026-11-27 07:07:55.242822+00', '{"turn": "t_file", "event": "filed", "score": {"band": "hot", "total": 87, "band_from": 70, "scorecard": "fit", "band_label": "Hot", "dimensions": [{"id": "need", "sum": 37, "title": "Need", "counts": 37, "ceiling": 45, "criteria": [{"id": "c_frozen", "label": "Temperature is Frozen", "points": 15}, {"id": "c_blast", "label": "Blast freezing is yes", "points": 12}, {"id": "c_pallets", "label": "Pallets 90", "points": 10}]}, {"id": "authority", "sum": 25, "title": "Authority", "counts": 25, "ceiling": 25, "criteria": [{"id": "c_owner", "label": "Role is Owner or director", "points": 25}, {"id": "c_quotes", "label": "Role is Gathering quotes", "points": 0}]}, {"id": "timing", "sum": 25, "title": "Timing", "counts": 25, "ceiling": 25, "criteria": [{"id": "c_soon", "label": "Start is Within 8 weeks", "points": 25}, {"id": "c_half", "label": "Start is In 9 to 26 weeks", "points": 0}]}], "band_by_points": "hot"}, "filing": 1, "decision": {"queue": "senior", "steps": ["Band is hot: queue senior"]}}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 53, 'took', '2026-11-27 07:07:55.242822+00', '{"arm": "a_hot", "turn": "t_file", "event": "took", "because": "Hot"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 54, 'said', '2026-11-27 07:07:55.242822+00', '{"turn": "t_hotline", "event": "said", "lines": [{"kind": "text", "text": "Thank you, Ada. Somebody from the depot calls you today."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', 55, 'closed', '2026-11-27 07:07:55.242822+00', '{"turn": "t_end_lead", "event": "closed", "lines": [{"kind": "text", "text": "Have a good day."}], "outcome": "lead"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 4, 'taken', '2026-11-27 18:15:42.263281+00', '{"at": "2026-11-27T18:15:42.263281485Z", "event": "taken", "input": "line-0"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 5, 'replied', '2026-11-27 18:15:42.263281+00', '{"text": "storage", "turn": "t_interest", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 6, 'kept', '2026-11-27 18:15:42.263281+00', '{"turn": "t_interest", "after": 0, "event": "kept", "field": "fld_interest", "heard": {"end": 7, "text": "storage", "start": 0}, "shown": "Cold storage", "value": {"key": "storage", "kind": "choice"}, "before": 0}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 7, 'took', '2026-11-27 18:15:42.263281+00', '{"arm": "a_storage", "turn": "t_interest", "event": "took", "because": "Cold storage or Blast freezing"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 8, 'entered', '2026-11-27 18:15:42.263281+00', '{"event": "entered", "section": "load"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 9, 'said', '2026-11-27 18:15:42.263281+00', '{"turn": "t_load", "event": "said", "lines": [{"kind": "text", "text": "A few quick questions about your load."}]}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 10, 'asked', '2026-11-27 18:15:42.263281+00', '{"text": "How cold does it have to be?", "turn": "t_temperature", "event": "asked"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 16, 'taken', '2026-11-27 18:15:58.263281+00', '{"at": "2026-11-27T18:15:58.263281485Z", "event": "taken", "input": "line-2"}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 17, 'replied', '2026-11-27 18:15:58.263281+00', '{"text": "no", "turn": "t_blast", "event": "replied", "picked": false}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 18, 'kept', '2026-11-27 18:15:58.263281+00', '{"turn": "t_blast", "after": 15, "event": "kept", "field": "fld_blast", "heard": {"end": 2, "text": "no", "start": 0}, "shown": "No", "value": {"yes": false, "kind": "yes_no"}, "before": 15}');
INSERT INTO public.conversation_events VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb37-7186-945f-1b13469dddf6', 19, 'asked', '2026-11-27 18:15:58.263281+00', '{"text": "Roughly how many pallets at your busiest?", "turn": "t_pallets", "event": "asked"}');


--
-- Data for Name: conversations; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.conversations VALUES ('01a2212f-eb37-7186-945f-1b13469dddf6', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '\x0b505a72d23d63107120559905752d60e3c23c427115ce6a8e1ed1fcdb9ddace', '{"band": null, "said": ["t_load", "t_small"], "seed": 1821886493989295, "asking": null, "closed": "not_a_fit", "events": 27, "inputs": [{"id": "start", "first": 0}, {"id": "line-0", "first": 4}, {"id": "line-1", "first": 11}, {"id": "line-2", "first": 16}, {"id": "line-3", "first": 20}], "nudged": false, "points": 15, "values": {"fld_blast": {"turn": "t_blast", "value": {"yes": false, "kind": "yes_no"}}, "fld_pallets": {"turn": "t_pallets", "value": {"kind": "number", "amount": "3"}}, "fld_interest": {"turn": "t_interest", "value": {"key": "storage", "kind": "choice"}}, "fld_temperature": {"turn": "t_temperature", "value": {"key": "frozen", "kind": "choice"}}}, "visits": [], "answers": [{"came": {"value": {"key": "storage", "kind": "choice"}}, "turn": "t_interest", "field": "fld_interest"}, {"came": {"value": {"key": "frozen", "kind": "choice"}}, "turn": "t_temperature", "field": "fld_temperature"}, {"came": {"value": {"yes": false, "kind": "yes_no"}}, "turn": "t_blast", "field": "fld_blast"}, {"came": {"value": {"kind": "number", "amount": "3"}}, "turn": "t_pallets", "field": "fld_pallets"}], "context": {"page": "/storage", "device": "phone"}, "entered": {"load": 1, "small": 1, "welcome": 1}, "filings": 0, "missing": {}, "offered": 0, "refused": {}, "started": true, "language": "en", "questions": 4, "side_talk": 0}', 27, '2026-11-27 18:15:18.263281+00', '2026-11-27 18:16:09.263281+00', 'not_a_fit', NULL);
INSERT INTO public.conversations VALUES ('01a2212f-eb23-70b0-a4b1-828ac0d5f70f', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '\x28130baf50556cc158f671566340f65a6db26b01415cfb06b6572a179b623a9e', '{"band": "hot", "said": ["t_hotline", "t_load", "t_price"], "seed": 962563010189340, "asking": null, "closed": "lead", "events": 56, "inputs": [{"id": "start", "first": 0}, {"id": "line-0", "first": 4}, {"id": "line-1", "first": 11}, {"id": "line-2", "first": 16}, {"id": "line-3", "first": 20}, {"id": "line-4", "first": 28}, {"id": "line-5", "first": 33}, {"id": "line-6", "first": 37}, {"id": "line-7", "first": 41}, {"id": "line-8", "first": 45}, {"id": "line-9", "first": 49}], "nudged": false, "points": 87, "values": {"fld_name": {"turn": "t_name", "value": {"full": "Ada Moreno", "kind": "name", "given": "Ada", "family": "Moreno"}}, "fld_role": {"turn": "t_role", "value": {"key": "owner", "kind": "choice"}}, "fld_blast": {"turn": "t_blast", "value": {"yes": true, "kind": "yes_no"}}, "fld_email": {"turn": "t_email", "value": {"kind": "text", "text": "ada@blueheron.example"}}, "fld_phone": {"turn": "t_phone", "value": {"kind": "phone", "number": "+442079460467"}}, "fld_start": {"turn": "t_start", "value": {"key": "soon", "kind": "choice"}}, "fld_company": {"turn": "t_company", "value": {"kind": "text", "text": "Blue Heron Ices"}}, "fld_pallets": {"turn": "t_pallets", "value": {"kind": "number", "amount": "90"}}, "fld_estimate": {"turn": "t_estimate", "value": {"kind": "money", "amount": "369.00", "currency": "GBP"}}, "fld_interest": {"turn": "t_interest", "value": {"key": "storage", "kind": "choice"}}, "fld_temperature": {"turn": "t_temperature", "value": {"key": "frozen", "kind": "choice"}}}, "visits": [], "answers": [{"came": {"value": {"key": "storage", "kind": "choice"}}, "turn": "t_interest", "field": "fld_interest"}, {"came": {"value": {"key": "frozen", "kind": "choice"}}, "turn": "t_temperature", "field": "fld_temperature"}, {"came": {"value": {"yes": true, "kind": "yes_no"}}, "turn": "t_blast", "field": "fld_blast"}, {"came": {"value": {"kind": "number", "amount": "90"}}, "turn": "t_pallets", "field": "fld_pallets"}, {"came": {"value": {"key": "soon", "kind": "choice"}}, "turn": "t_start", "field": "fld_start"}, {"came": {"value": {"key": "owner", "kind": "choice"}}, "turn": "t_role", "field": "fld_role"}, {"came": {"value": {"full": "Ada Moreno", "kind": "name", "given": "Ada", "family": "Moreno"}}, "turn": "t_name", "field": "fld_name"}, {"came": {"value": {"kind": "text", "text": "Blue Heron Ices"}}, "turn": "t_company", "field": "fld_company"}, {"came": {"value": {"kind": "text", "text": "ada@blueheron.example"}}, "turn": "t_email", "field": "fld_email"}, {"came": {"value": {"kind": "phone", "number": "+442079460467"}}, "turn": "t_phone", "field": "fld_phone"}], "context": {"page": "/storage", "device": "phone"}, "entered": {"who": 1, "load": 1, "timing": 1, "welcome": 1}, "filings": 1, "missing": {}, "offered": 0, "refused": {}, "started": true, "language": "en", "questions": 10, "side_talk": 0}', 56, '2026-11-27 07:05:18.242822+00', '2026-11-27 07:07:55.242822+00', 'lead', NULL);
INSERT INTO public.conversations VALUES ('01a2212f-eb11-713e-a330-4b0f36678d87', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '\x7249d91b9511d87eaa11e1c9f4aad34191531ed24f34b91ed6af72d983cbc724', '{"band": "nurture", "said": ["t_load", "t_nurtureline", "t_price"], "seed": 2883122079526705, "asking": null, "closed": "lead", "events": 52, "inputs": [{"id": "start", "first": 0}, {"id": "line-0", "first": 4}, {"id": "line-1", "first": 11}, {"id": "line-2", "first": 16}, {"id": "line-3", "first": 24}, {"id": "line-4", "first": 29}, {"id": "line-5", "first": 33}, {"id": "line-6", "first": 37}, {"id": "line-7", "first": 41}, {"id": "line-8", "first": 45}], "nudged": false, "points": 20, "values": {"fld_name": {"turn": "t_name", "value": {"full": "Ivo Brandt", "kind": "name", "given": "Ivo", "family": "Brandt"}}, "fld_role": {"turn": "t_role", "value": {"key": "manager", "kind": "choice"}}, "fld_email": {"turn": "t_email", "value": {"kind": "text", "text": "ivo@mossfield.example"}}, "fld_phone": {"turn": "t_phone", "value": {"kind": "phone", "number": "+442079460511"}}, "fld_start": {"turn": "t_start", "value": {"key": "half_year", "kind": "choice"}}, "fld_company": {"turn": "t_company", "value": {"kind": "text", "text": "Mossfield Dairy"}}, "fld_pallets": {"turn": "t_pallets", "value": {"kind": "number", "amount": "70"}}, "fld_estimate": {"turn": "t_estimate", "value": {"kind": "money", "amount": "234.50", "currency": "GBP"}}, "fld_interest": {"turn": "t_interest", "value": {"key": "storage", "kind": "choice"}}, "fld_temperature": {"turn": "t_temperature", "value": {"key": "chilled", "kind": "choice"}}}, "visits": [], "answers": [{"came": {"value": {"key": "storage", "kind": "choice"}}, "turn": "t_interest", "field": "fld_interest"}, {"came": {"value": {"key": "chilled", "kind": "choice"}}, "turn": "t_temperature", "field": "fld_temperature"}, {"came": {"value": {"kind": "number", "amount": "70"}}, "turn": "t_pallets", "field": "fld_pallets"}, {"came": {"value": {"key": "half_year", "kind": "choice"}}, "turn": "t_start", "field": "fld_start"}, {"came": {"value": {"key": "manager", "kind": "choice"}}, "turn": "t_role", "field": "fld_role"}, {"came": {"value": {"full": "Ivo Brandt", "kind": "name", "given": "Ivo", "family": "Brandt"}}, "turn": "t_name", "field": "fld_name"}, {"came": {"value": {"kind": "text", "text": "Mossfield Dairy"}}, "turn": "t_company", "field": "fld_company"}, {"came": {"value": {"kind": "text", "text": "ivo@mossfield.example"}}, "turn": "t_email", "field": "fld_email"}, {"came": {"value": {"kind": "phone", "number": "+442079460511"}}, "turn": "t_phone", "field": "fld_phone"}], "context": {"page": "/storage", "device": "phone"}, "entered": {"who": 1, "load": 1, "timing": 1, "welcome": 1}, "filings": 1, "missing": {}, "offered": 0, "refused": {}, "started": true, "language": "en", "questions": 9, "side_talk": 0}', 52, '2026-11-27 05:45:18.22486+00', '2026-11-27 05:47:22.22486+00', 'lead', NULL);
INSERT INTO public.conversations VALUES ('01a2212f-ea4c-7079-b499-038e351738eb', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '\x65df50d11d2f387fb9f6f7e0a7e93f55cbb654f45ae3ea30e9c483f2ccbba49d', '{"band": "hot", "said": ["t_hotline", "t_load", "t_price"], "seed": 1382993671374821, "asking": null, "closed": "lead", "events": 56, "inputs": [{"id": "start", "first": 0}, {"id": "line-0", "first": 4}, {"id": "line-1", "first": 11}, {"id": "line-2", "first": 16}, {"id": "line-3", "first": 20}, {"id": "line-4", "first": 28}, {"id": "line-5", "first": 33}, {"id": "line-6", "first": 37}, {"id": "line-7", "first": 41}, {"id": "line-8", "first": 45}, {"id": "line-9", "first": 49}], "nudged": false, "points": 75, "values": {"fld_name": {"turn": "t_name", "value": {"full": "Nia Pryce", "kind": "name", "given": "Nia", "family": "Pryce"}}, "fld_role": {"turn": "t_role", "value": {"key": "owner", "kind": "choice"}}, "fld_blast": {"turn": "t_blast", "value": {"yes": false, "kind": "yes_no"}}, "fld_email": {"turn": "t_email", "value": {"kind": "text", "text": "nia@pryce.example"}}, "fld_phone": {"turn": "t_phone", "value": {"kind": "phone", "number": "+442079460642"}}, "fld_start": {"turn": "t_start", "value": {"key": "soon", "kind": "choice"}}, "fld_company": {"turn": "t_company", "value": {"kind": "text", "text": "Pryce & Daughters"}}, "fld_pallets": {"turn": "t_pallets", "value": {"kind": "number", "amount": "55"}}, "fld_estimate": {"turn": "t_estimate", "value": {"kind": "money", "amount": "225.50", "currency": "GBP"}}, "fld_interest": {"turn": "t_interest", "value": {"key": "storage", "kind": "choice"}}, "fld_temperature": {"turn": "t_temperature", "value": {"key": "frozen", "kind": "choice"}}}, "visits": [], "answers": [{"came": {"value": {"key": "storage", "kind": "choice"}}, "turn": "t_interest", "field": "fld_interest"}, {"came": {"value": {"key": "frozen", "kind": "choice"}}, "turn": "t_temperature", "field": "fld_temperature"}, {"came": {"value": {"yes": false, "kind": "yes_no"}}, "turn": "t_blast", "field": "fld_blast"}, {"came": {"value": {"kind": "number", "amount": "55"}}, "turn": "t_pallets", "field": "fld_pallets"}, {"came": {"value": {"key": "soon", "kind": "choice"}}, "turn": "t_start", "field": "fld_start"}, {"came": {"value": {"key": "owner", "kind": "choice"}}, "turn": "t_role", "field": "fld_role"}, {"came": {"value": {"full": "Nia Pryce", "kind": "name", "given": "Nia", "family": "Pryce"}}, "turn": "t_name", "field": "fld_name"}, {"came": {"value": {"kind": "text", "text": "Pryce & Daughters"}}, "turn": "t_company", "field": "fld_company"}, {"came": {"value": {"kind": "text", "text": "nia@pryce.example"}}, "turn": "t_email", "field": "fld_email"}, {"came": {"value": {"kind": "phone", "number": "+442079460642"}}, "turn": "t_phone", "field": "fld_phone"}], "context": {"page": "/storage", "device": "phone"}, "entered": {"who": 1, "load": 1, "timing": 1, "welcome": 1}, "filings": 1, "missing": {}, "offered": 0, "refused": {}, "started": true, "language": "en", "questions": 10, "side_talk": 0}', 56, '2026-11-24 17:25:18.025292+00', '2026-11-24 17:27:45.025292+00', 'lead', NULL);
INSERT INTO public.conversations VALUES ('01a2212f-eac7-733a-8dba-72408a8feae6', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '\x8f8e4e8fca4d85bb2df44488a8965395d046d84a42c41a58aaf3322ee84c32a6', '{"band": "nurture", "said": ["t_load", "t_nurtureline", "t_price"], "seed": 563943394739513, "asking": null, "closed": "lead", "events": 59, "inputs": [{"id": "start", "first": 0}, {"id": "line-0", "first": 4}, {"id": "line-1", "first": 11}, {"id": "line-2", "first": 16}, {"id": "line-3", "first": 20}, {"id": "line-4", "first": 28}, {"id": "line-5", "first": 33}, {"id": "line-6", "first": 37}, {"id": "line-7", "first": 41}, {"id": "line-8", "first": 45}, {"id": "line-9", "first": 48}, {"id": "line-10", "first": 52}], "nudged": false, "points": 10, "values": {"fld_name": {"turn": "t_name", "value": {"full": "Sami Haddad", "kind": "name", "given": "Sami", "family": "Haddad"}}, "fld_role": {"turn": "t_role", "value": {"key": "quotes", "kind": "choice"}}, "fld_email": {"turn": "t_email", "value": {"kind": "text", "text": "sami@olivepress.example"}}, "fld_start": {"turn": "t_start", "value": {"key": "half_year", "kind": "choice"}}, "fld_company": {"turn": "t_company", "value": {"kind": "text", "text": "Olive Press Deli"}}, "fld_pallets": {"turn": "t_pallets", "value": {"low": "60", "high": "80", "kind": "number", "amount": "70"}}, "fld_estimate": {"turn": "t_estimate", "value": {"kind": "money", "amount": "234.50", "currency": "GBP"}}, "fld_interest": {"turn": "t_interest", "value": {"key": "storage", "kind": "choice"}}, "fld_temperature": {"turn": "t_temperature", "value": {"key": "chilled", "kind": "choice"}}}, "visits": [], "answers": [{"came": {"value": {"key": "storage", "kind": "choice"}}, "turn": "t_interest", "field": "fld_interest"}, {"came": {"value": {"key": "chilled", "kind": "choice"}}, "turn": "t_temperature", "field": "fld_temperature"}, {"came": {"value": {"low": "60", "high": "80", "kind": "number", "amount": "70"}}, "turn": "t_pallets", "field": "fld_pallets"}, {"came": {"value": {"key": "half_year", "kind": "choice"}}, "turn": "t_start", "field": "fld_start"}, {"came": {"value": {"key": "quotes", "kind": "choice"}}, "turn": "t_role", "field": "fld_role"}, {"came": {"value": {"full": "Sami Haddad", "kind": "name", "given": "Sami", "family": "Haddad"}}, "turn": "t_name", "field": "fld_name"}, {"came": {"value": {"kind": "text", "text": "Olive Press Deli"}}, "turn": "t_company", "field": "fld_company"}, {"came": {"value": {"kind": "text", "text": "sami@olivepress.example"}}, "turn": "t_email", "field": "fld_email"}, {"came": {"left": "skipped"}, "turn": "t_phone", "field": "fld_phone"}], "context": {"page": "/storage", "device": "phone"}, "entered": {"who": 1, "load": 1, "timing": 1, "welcome": 1}, "filings": 1, "missing": {"fld_phone": "skipped"}, "offered": 0, "refused": {}, "started": true, "language": "en", "questions": 9, "side_talk": 1}', 59, '2026-11-25 08:25:18.151314+00', '2026-11-25 08:27:32.151314+00', 'lead', NULL);
INSERT INTO public.conversations VALUES ('01a2212f-eb09-76ed-a4f3-45f9387d07ba', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '\x80f223d81cd2be503a4ffb5bb1aa43967bee97ab07a591e6246a443d248cc18f', '{"band": null, "said": ["t_load"], "seed": 4177526876344260, "asking": {"turn": "t_role", "tries": 0, "extras": 0}, "closed": null, "events": 28, "inputs": [{"id": "start", "first": 0}, {"id": "line-0", "first": 4}, {"id": "line-1", "first": 11}, {"id": "line-2", "first": 16}, {"id": "line-3", "first": 19}, {"id": "line-4", "first": 22}], "nudged": false, "points": 0, "values": {"fld_interest": {"turn": "t_interest", "value": {"key": "storage", "kind": "choice"}}, "fld_temperature": {"turn": "t_temperature", "value": {"key": "chilled", "kind": "choice"}}}, "visits": [], "answers": [{"came": {"value": {"key": "storage", "kind": "choice"}}, "turn": "t_interest", "field": "fld_interest"}, {"came": {"value": {"key": "chilled", "kind": "choice"}}, "turn": "t_temperature", "field": "fld_temperature"}, {"came": {"left": "tries"}, "turn": "t_pallets", "field": "fld_pallets"}], "context": {"page": "/storage", "device": "phone"}, "entered": {"who": 1, "load": 1, "welcome": 1}, "filings": 0, "missing": {"fld_pallets": "not_readable"}, "offered": 0, "refused": {}, "started": true, "language": "en", "questions": 3, "side_talk": 0}', 28, '2026-11-26 19:25:18.21715+00', '2026-11-26 19:26:19.21715+00', NULL, '2026-11-29 09:00:00+00');
INSERT INTO public.conversations VALUES ('01a2212f-eaf0-765c-ac0b-ec0cd896d736', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '\x4d4ec54b0941ecf6df3cf4101e2437d7e7d86639f70b845c631ae05318e236ef', '{"band": "nurture", "said": ["t_load", "t_nurtureline", "t_price"], "seed": 2156469060371180, "asking": null, "closed": "lead", "events": 56, "inputs": [{"id": "start", "first": 0}, {"id": "line-0", "first": 4}, {"id": "line-1", "first": 11}, {"id": "line-2", "first": 16}, {"id": "line-3", "first": 20}, {"id": "line-4", "first": 28}, {"id": "line-5", "first": 33}, {"id": "line-6", "first": 37}, {"id": "line-7", "first": 41}, {"id": "line-8", "first": 45}, {"id": "line-9", "first": 49}], "nudged": false, "points": 15, "values": {"fld_name": {"turn": "t_name", "value": {"full": "Jon Petrie", "kind": "name", "given": "Jon", "family": "Petrie"}}, "fld_blast": {"turn": "t_blast", "value": {"yes": false, "kind": "yes_no"}}, "fld_email": {"turn": "t_email", "value": {"kind": "text", "text": "jon@petrie.example"}}, "fld_pallets": {"turn": "t_pallets", "value": {"kind": "number", "amount": "8"}}, "fld_estimate": {"turn": "t_estimate", "value": {"kind": "money", "amount": "32.80", "currency": "GBP"}}, "fld_interest": {"turn": "t_interest", "value": {"key": "storage", "kind": "choice"}}, "fld_temperature": {"turn": "t_temperature", "value": {"key": "frozen", "kind": "choice"}}}, "visits": [], "answers": [{"came": {"value": {"key": "storage", "kind": "choice"}}, "turn": "t_interest", "field": "fld_interest"}, {"came": {"value": {"key": "frozen", "kind": "choice"}}, "turn": "t_temperature", "field": "fld_temperature"}, {"came": {"value": {"yes": false, "kind": "yes_no"}}, "turn": "t_blast", "field": "fld_blast"}, {"came": {"value": {"kind": "number", "amount": "8"}}, "turn": "t_pallets", "field": "fld_pallets"}, {"came": {"left": "skipped"}, "turn": "t_start", "field": "fld_start"}, {"came": {"left": "declined"}, "turn": "t_role", "field": "fld_role"}, {"came": {"value": {"full": "Jon Petrie", "kind": "name", "given": "Jon", "family": "Petrie"}}, "turn": "t_name", "field": "fld_name"}, {"came": {"left": "declined"}, "turn": "t_company", "field": "fld_company"}, {"came": {"value": {"kind": "text", "text": "jon@petrie.example"}}, "turn": "t_email", "field": "fld_email"}, {"came": {"left": "skipped"}, "turn": "t_phone", "field": "fld_phone"}], "context": {"page": "/storage", "device": "phone"}, "entered": {"who": 1, "load": 1, "timing": 1, "welcome": 1}, "filings": 1, "missing": {"fld_role": "declined", "fld_phone": "skipped", "fld_start": "skipped", "fld_company": "declined"}, "offered": 0, "refused": {}, "started": true, "language": "en", "questions": 10, "side_talk": 0}', 56, '2026-11-26 07:45:18.191956+00', '2026-11-26 07:48:11.191956+00', 'lead', NULL);
INSERT INTO public.conversations VALUES ('01a2212f-eadd-723f-af31-bd564f0fb82c', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '\xe9cd4a2ee895fe6d1a05337bf118089a5226cb3bf0800adee7b768ae04bb1161', '{"band": "hot", "said": ["t_bigline", "t_hotline", "t_load"], "seed": 1753373353057234, "asking": null, "closed": "lead", "events": 51, "inputs": [{"id": "start", "first": 0}, {"id": "line-0", "first": 4}, {"id": "line-1", "first": 11}, {"id": "line-2", "first": 16}, {"id": "line-3", "first": 20}, {"id": "line-4", "first": 28}, {"id": "line-5", "first": 32}, {"id": "line-6", "first": 36}, {"id": "line-7", "first": 40}, {"id": "line-8", "first": 44}], "nudged": false, "points": 70, "values": {"fld_name": {"turn": "t_name", "value": {"full": "Maud Ekström", "kind": "name", "given": "Maud", "family": "Ekström"}}, "fld_role": {"turn": "t_role", "value": {"key": "owner", "kind": "choice"}}, "fld_blast": {"turn": "t_blast", "value": {"yes": true, "kind": "yes_no"}}, "fld_email": {"turn": "t_email", "value": {"kind": "text", "text": "maud@ekstromberries.example"}}, "fld_phone": {"turn": "t_phone", "value": {"kind": "phone", "number": "+442079460588"}}, "fld_company": {"turn": "t_company", "value": {"kind": "text", "text": "Ekström Berries"}}, "fld_pallets": {"turn": "t_pallets", "value": {"kind": "number", "amount": "250"}}, "fld_estimate": {"turn": "t_estimate", "value": {"kind": "money", "amount": "1025.00", "currency": "GBP"}}, "fld_interest": {"turn": "t_interest", "value": {"key": "blast", "kind": "choice"}}, "fld_temperature": {"turn": "t_temperature", "value": {"key": "frozen", "kind": "choice"}}}, "visits": [], "answers": [{"came": {"value": {"key": "blast", "kind": "choice"}}, "turn": "t_interest", "field": "fld_interest"}, {"came": {"value": {"key": "frozen", "kind": "choice"}}, "turn": "t_temperature", "field": "fld_temperature"}, {"came": {"value": {"yes": true, "kind": "yes_no"}}, "turn": "t_blast", "field": "fld_blast"}, {"came": {"value": {"kind": "number", "amount": "250"}}, "turn": "t_pallets", "field": "fld_pallets"}, {"came": {"value": {"key": "owner", "kind": "choice"}}, "turn": "t_role", "field": "fld_role"}, {"came": {"value": {"full": "Maud Ekström", "kind": "name", "given": "Maud", "family": "Ekström"}}, "turn": "t_name", "field": "fld_name"}, {"came": {"value": {"kind": "text", "text": "Ekström Berries"}}, "turn": "t_company", "field": "fld_company"}, {"came": {"value": {"kind": "text", "text": "maud@ekstromberries.example"}}, "turn": "t_email", "field": "fld_email"}, {"came": {"value": {"kind": "phone", "number": "+442079460588"}}, "turn": "t_phone", "field": "fld_phone"}], "context": {"page": "/blast-freezing", "device": "computer"}, "entered": {"who": 1, "load": 1, "welcome": 1}, "filings": 1, "missing": {}, "offered": 0, "refused": {}, "started": true, "language": "en", "questions": 9, "side_talk": 0}', 51, '2026-11-26 04:25:18.173243+00', '2026-11-26 04:27:42.173243+00', 'lead', NULL);


--
-- Data for Name: dialogues; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.dialogues VALUES ('01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'storage-enquiry', 'Storage enquiry', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '2026-11-28 08:05:17.94003+00');
INSERT INTO public.dialogues VALUES ('01a2212f-ea42-70b3-98a3-0c49c056e7db', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'callback', 'Call back', '01a2212f-ea47-758a-bd74-c7e4eb34e348', '2026-11-28 08:05:18.017204+00');


--
-- Data for Name: draft_edits; Type: TABLE DATA; Schema: public; Owner: -
--



--
-- Data for Name: drafts; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.drafts VALUES ('01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 1, '{"id": "storage-enquiry", "brief": {"fit": "Food makers with 50 pallets or more, frozen, starting soon, who talk to us themselves.", "needs": [["pallets"], ["temperature"], ["name"], ["email", "phone"]], "taker": "The depot nearest to the load; hot leads go to the senior reps."}, "title": "Storage enquiry", "fields": [{"id": "fld_interest", "key": "interest", "type": "choice", "label": "Interest", "record": "lead", "options": [{"key": "storage", "also": ["storage", "pallet storage", "warehouse", "store pallets"], "label": {"en": "Cold storage"}}, {"key": "blast", "also": ["freezing"], "label": {"en": "Blast freezing"}}, {"key": "customer", "also": ["existing customer", "my order", "my pallets", "account"], "label": {"en": "I am a customer already"}}, {"key": "looking", "also": ["browsing", "nothing", "just browsing"], "label": {"en": "Just looking"}}]}, {"id": "fld_temperature", "key": "temperature", "type": "choice", "label": "Temperature", "rules": [{"rule": "required"}], "record": "lead", "options": [{"key": "frozen", "also": ["minus 18", "deep freeze", "freezer", "-18"], "hint": {"en": "−18 °C or below"}, "label": {"en": "Frozen"}}, {"key": "chilled", "also": ["fridge", "plus 4", "cool"], "hint": {"en": "+2 to +5 °C"}, "label": {"en": "Chilled"}}, {"key": "ambient", "also": ["ambient", "dry", "room temperature", "dry goods"], "hint": {"en": "dry goods, room temperature"}, "label": {"en": "Not chilled"}}]}, {"id": "fld_blast", "key": "blast_freezing", "type": "yes_no", "label": "Blast freezing", "record": "lead"}, {"id": "fld_pallets", "key": "pallets", "note": "At their busiest.", "type": "whole_number", "unit": "pallets", "label": "Pallets", "rules": [{"max": "4000", "min": "1", "rule": "range"}], "record": "lead"}, {"id": "fld_start", "key": "start", "type": "choice", "label": "Start", "record": "lead", "options": [{"key": "soon", "also": ["asap", "now", "soon", "next month", "this month", "straight away"], "label": {"en": "Within 8 weeks"}}, {"key": "half_year", "also": ["in a few months", "spring", "next quarter"], "label": {"en": "In 9 to 26 weeks"}}, {"key": "later", "also": ["next year", "no hurry"], "label": {"en": "Later"}}]}, {"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "record": "contact", "options": [{"key": "owner", "also": ["owner", "director", "managing director", "founder", "ceo"], "label": {"en": "Owner or director"}}, {"key": "manager", "also": ["operations manager", "logistics manager"], "label": {"en": "Manager"}}, {"key": "quotes", "also": ["buyer", "getting quotes", "comparing"], "label": {"en": "Gathering quotes"}}]}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "rules": [{"rule": "full_name"}], "record": "contact", "personal": true}, {"id": "fld_company", "key": "company", "type": "company", "label": "Company", "record": "company"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "rules": [{"rule": "company_address"}], "record": "contact", "personal": true}, {"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "record": "contact", "personal": true}, {"id": "fld_estimate", "key": "weekly_estimate", "type": "money", "label": "Weekly estimate", "record": "lead"}], "format": "lumbo.dialogue/1", "opening": {"say": {"en": "Hello from Winterlode. Tell us what you need to keep cold, and get a price in two minutes."}, "button": {"en": "Get a price"}}, "routing": {"rules": [{"id": "rt_hot", "holds": {"compare": {"is": "is", "to": "hot", "what": "@band"}}, "queue": "senior"}, {"id": "rt_chilled", "holds": {"compare": {"is": "is", "to": "chilled", "what": "temperature"}}, "queue": "saltwick"}], "otherwise": "aldermoor"}, "language": "en", "outcomes": [{"id": "lead", "class": "lead", "label": "A lead"}, {"id": "not_a_fit", "class": "not_a_fit", "label": "Not a fit"}, {"id": "customer", "class": "customer", "label": "An existing customer"}, {"id": "looking", "class": "looking", "label": "Just looking"}], "sections": [{"id": "welcome", "then": "carry_on", "title": "Welcome", "turns": [{"id": "t_interest", "say": {"text": {"en": "What can we help you with?"}}, "arms": [{"id": "a_customer", "then": {"go_to": "customers"}, "when": {"options": ["customer"]}, "turns": []}, {"id": "a_looking", "then": {"go_to": "looking"}, "when": {"options": ["looking"]}, "turns": []}, {"id": "a_storage", "then": "rejoin", "when": {"options": ["storage", "blast"]}, "turns": []}], "kind": "ask", "field": "interest", "tries": 3, "way_out": "go_on"}]}, {"id": "load", "then": "carry_on", "title": "The load", "turns": [{"id": "t_load", "say": [{"line": {"or": [{"en": "A few quick questions about your load."}], "text": {"en": "A few questions about what you need to keep cold."}}}], "kind": "tell"}, {"id": "t_temperature", "say": {"text": {"en": "How cold does it have to be?"}}, "why": {"en": "It tells us which hall has room for you."}, "arms": [{"id": "a_frozen", "then": "rejoin", "when": {"options": ["frozen"]}, "turns": [{"id": "t_blast", "say": {"text": {"en": "Does any of it need blast freezing first?"}}, "kind": "ask", "field": "blast_freezing", "tries": 3, "way_out": "go_on"}]}, {"id": "a_chilled", "then": "rejoin", "when": {"options": ["chilled"]}, "turns": []}, {"id": "a_ambient", "then": {"go_to": "not_cold"}, "when": {"options": ["ambient"]}, "turns": []}], "kind": "ask", "field": "temperature", "tries": 3, "way_out": "go_on"}, {"id": "t_pallets", "say": {"text": {"en": "Roughly how many pallets at your busiest?"}}, "why": {"en": "It tells us which depot has room."}, "arms": [{"id": "a_tiny", "then": {"go_to": "small"}, "when": {"holds": {"compare": {"is": "less_than", "to": "5", "what": "pallets"}}}, "label": "Under 5 pallets", "turns": []}], "kind": "ask", "field": "pallets", "short": {"en": "How many pallets, roughly?"}, "tries": 3, "way_out": {"go_to": "who"}, "messages": [{"on": "type", "say": [{"en": "Just a number is fine, for example 120."}, {"en": "A rough guess is enough: 50? 200?"}]}]}, {"id": "t_estimate", "kind": "work_out", "fills": [{"field": "weekly_estimate", "formula": "MONEY(pallets * IF(temperature = \"frozen\", 4.10, 3.35))"}]}, {"id": "t_big", "arms": [{"id": "a_big", "then": {"go_to": "who"}, "when": {"holds": {"all": [{"compare": {"is": "at_least", "to": "200", "what": "pallets"}}, {"compare": {"is": "is", "to": "frozen", "what": "temperature"}}]}}, "label": "Big frozen load", "turns": [{"id": "t_bigline", "say": [{"line": {"text": {"en": "That is a load our depot leads look after in person."}}}], "kind": "tell"}]}, {"id": "a_usual", "then": "rejoin", "when": "otherwise", "turns": []}], "kind": "fork"}]}, {"id": "timing", "then": "carry_on", "title": "Timing", "turns": [{"id": "t_price", "say": [{"line": {"text": {"en": "For {pallets|that many pallets} we would expect about {weekly_estimate|a few hundred pounds} a week, handling included."}}}], "kind": "tell"}, {"id": "t_start", "say": {"text": {"en": "When would the first pallets arrive?"}}, "kind": "ask", "skip": {"en": "I don’t know yet"}, "field": "start", "tries": 3, "way_out": "go_on"}]}, {"id": "who", "then": "carry_on", "title": "Who to call", "turns": [{"id": "t_role", "say": {"text": {"en": "What is your part in the decision?"}}, "why": {"en": "So that we call the right person once."}, "kind": "ask", "skip": {"en": "Rather not say"}, "field": "role", "tries": 3, "way_out": "go_on"}, {"id": "t_name", "say": {"text": {"en": "Who should we ask for?"}}, "why": {"en": "So that we ask for the right person."}, "kind": "ask", "field": "name", "tries": 3, "way_out": "go_on"}, {"id": "t_company", "say": {"text": {"en": "And the company?"}}, "kind": "ask", "field": "company", "tries": 3, "way_out": "go_on"}, {"id": "t_email", "say": {"text": {"en": "Which address at {company|your company} should we send the estimate to?"}}, "why": {"en": "The estimate goes there; nothing else does."}, "kind": "ask", "field": "email", "tries": 3, "way_out": "go_on"}, {"id": "t_phone", "say": {"text": {"en": "And a number to reach you on?"}}, "why": {"en": "A person calls you once, in working hours."}, "kind": "ask", "skip": {"en": "E-mail is enough"}, "field": "phone", "tries": 3, "way_out": "go_on"}, {"id": "t_file", "arms": [{"id": "a_out", "then": {"go_to": "not_cold"}, "when": "ruled_out", "turns": []}, {"id": "a_hot", "then": "rejoin", "when": {"band": ["hot"]}, "turns": [{"id": "t_hotline", "say": [{"line": {"text": {"en": "Thank you, {name.given|and welcome}. Somebody from the depot calls you today."}}}], "kind": "tell"}]}, {"id": "a_warm", "then": "rejoin", "when": {"band": ["warm"]}, "turns": [{"id": "t_warmline", "say": [{"line": {"text": {"en": "Thank you, {name.given|and welcome}. We call you within two working days."}}}], "kind": "tell"}]}, {"id": "a_nurture", "then": "rejoin", "when": "otherwise", "turns": [{"id": "t_nurtureline", "say": [{"line": {"text": {"en": "Thank you, {name.given|and welcome}. We send you our rates and a guide to packing for the cold."}}}], "kind": "tell"}]}], "kind": "file_lead"}, {"id": "t_end_lead", "say": {"text": {"en": "Have a good day."}}, "kind": "close", "outcome": "lead"}]}, {"id": "small", "then": "carry_on", "title": "Small loads", "turns": [{"id": "t_small", "say": [{"line": {"text": {"en": "Our smallest bay holds 5 pallets. For fewer, the growers’ co-op shares a cold room by the shelf."}}}, {"link": {"url": "https://shelves.winterlode.example/", "label": {"en": "See the shared cold room"}}}], "kind": "tell"}, {"id": "t_end_small", "say": {"text": {"en": "Thank you for asking."}}, "kind": "close", "outcome": "not_a_fit"}]}, {"id": "not_cold", "then": "carry_on", "title": "Not cold", "turns": [{"id": "t_end_notcold", "say": {"text": {"en": "We only store chilled and frozen goods, so we cannot help with this one. Thank you for asking."}}, "kind": "close", "outcome": "not_a_fit"}]}, {"id": "customers", "then": "carry_on", "title": "Customers", "turns": [{"id": "t_end_customer", "say": {"text": {"en": "Your depot’s desk knows your pallets best, and answers within the hour."}}, "kind": "close", "link": {"url": "https://desk.winterlode.example/", "label": {"en": "Open the customer desk"}}, "outcome": "customer"}]}, {"id": "looking", "then": "carry_on", "title": "Just looking", "turns": [{"id": "t_end_looking", "say": {"text": {"en": "Look around as long as you like. Come back when there is something to keep cold."}}, "kind": "close", "link": {"url": "https://www.winterlode.example/depots", "label": {"en": "How our depots work"}}, "outcome": "looking"}]}], "settings": {"pace": "by_length", "country": "GB", "currency": "GBP", "time_zone": "Europe/London", "extras_per_ask": 6, "entries_per_section": 25}, "scorecards": [{"id": "fit", "bands": [{"id": "nurture", "label": "Nurture"}, {"id": "warm", "from": 40, "label": "Warm"}, {"id": "hot", "from": 70, "label": "Hot"}], "title": "Fit", "rule_outs": [{"id": "r_ambient", "holds": {"compare": {"is": "is", "to": "ambient", "what": "temperature"}}, "reason": {"en": "We only do cold."}}, {"id": "r_tiny", "holds": {"compare": {"is": "less_than", "to": "5", "what": "pallets"}}, "reason": {"en": "The smallest bay is 5 pallets."}}], "dimensions": [{"id": "need", "title": "Need", "ceiling": 45, "criteria": [{"id": "c_frozen", "gives": {"when": {"holds": {"compare": {"is": "is", "to": "frozen", "what": "temperature"}}, "points": 15}}}, {"id": "c_blast", "gives": {"when": {"holds": {"compare": {"is": "is", "to": "yes", "what": "blast_freezing"}}, "points": 12}}}, {"id": "c_pallets", "gives": {"table": {"rows": [{"from": "50", "below": "200", "points": 10}, {"from": "200", "points": 25}], "field": "pallets"}}, "label": "Pallets"}]}, {"id": "authority", "floor": -10, "title": "Authority", "ceiling": 25, "criteria": [{"id": "c_owner", "gives": {"when": {"holds": {"compare": {"is": "is", "to": "owner", "what": "role"}}, "points": 25}}}, {"id": "c_quotes", "gives": {"when": {"holds": {"compare": {"is": "is", "to": "quotes", "what": "role"}}, "points": -10}}}]}, {"id": "timing", "title": "Timing", "ceiling": 25, "criteria": [{"id": "c_soon", "gives": {"when": {"holds": {"compare": {"is": "is", "to": "soon", "what": "start"}}, "points": 25}}}, {"id": "c_half", "gives": {"when": {"holds": {"compare": {"is": "is", "to": "half_year", "what": "start"}}, "points": 10}}}]}], "must_haves": [{"id": "m_company", "cap": "warm", "holds": {"compare": {"is": "is_known", "what": "email"}}, "label": "Email is a company address"}]}]}', '2026-11-28 08:05:17.94003+00', '01a2212f-e9a3-76a3-8cbc-8b4bd3d6b72e', 1);
INSERT INTO public.drafts VALUES ('01a2212f-ea42-70b3-98a3-0c49c056e7db', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 1, '{"id": "callback", "brief": {"fit": "Anybody with food to keep cold.", "needs": [["temperature"], ["email", "phone"]], "taker": "The Aldermoor queue."}, "title": "Call back", "fields": [{"id": "fld_temperature", "key": "temperature", "type": "choice", "label": "Temperature", "rules": [{"rule": "required"}], "record": "lead", "options": [{"key": "frozen", "also": ["minus 18", "deep freeze", "freezer", "-18"], "hint": {"en": "−18 °C or below"}, "label": {"en": "Frozen"}}, {"key": "chilled", "also": ["fridge", "plus 4", "cool"], "hint": {"en": "+2 to +5 °C"}, "label": {"en": "Chilled"}}, {"key": "ambient", "also": ["ambient", "dry", "room temperature", "dry goods"], "hint": {"en": "dry goods, room temperature"}, "label": {"en": "Not chilled"}}]}, {"id": "f_stock", "key": "stock", "type": "quantity", "unit": "pallets", "label": "Stock", "rules": [{"max": "20000", "min": "1", "rule": "range"}], "record": "lead"}, {"id": "f_start_date", "key": "start_date", "type": "date", "label": "Start date", "rules": [{"rule": "not_past"}], "record": "lead"}, {"id": "f_services", "key": "services", "type": "choices", "label": "Services", "rules": [{"n": 2, "rule": "at_most"}], "record": "lead", "options": [{"key": "blast", "also": ["blast"], "label": {"en": "Blast freezing"}}, {"key": "haulage", "also": ["haulage", "transport", "delivery"], "label": {"en": "Chilled haulage"}}, {"key": "picking", "also": ["picking", "packing"], "label": {"en": "Picking and packing"}}]}, {"id": "f_urgency", "key": "urgency", "type": "scale", "label": "Urgency", "record": "lead", "options": [{"key": "1", "label": {"en": "1, no hurry"}}, {"key": "2", "label": {"en": "2"}}, {"key": "3", "label": {"en": "3"}}, {"key": "4", "label": {"en": "4"}}, {"key": "5", "label": {"en": "5, this week"}}]}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "rules": [{"rule": "full_name"}], "record": "contact", "personal": true}, {"id": "fld_company", "key": "company", "type": "company", "label": "Company", "record": "company"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "rules": [{"rule": "company_address"}], "record": "contact", "personal": true}, {"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "record": "contact", "personal": true}, {"id": "f_consent", "key": "may_write", "type": "consent", "label": "May write", "record": "contact"}], "format": "lumbo.dialogue/1", "offers": [{"id": "guide", "say": [{"line": {"text": {"en": "Our one-page guide to cold storage may help while you think."}}}], "when": {"every": 2}}], "opening": {"say": {"en": "Tell us in a sentence or two what you need to keep cold. Somebody who knows calls you back."}, "button": {"en": "Tell us"}}, "routing": {"otherwise": "aldermoor"}, "language": "en", "outcomes": [{"id": "lead", "class": "lead", "label": "A lead"}, {"id": "looking", "class": "looking", "label": "Just looking"}], "sections": [{"id": "need", "then": "carry_on", "title": "What they need", "turns": [{"id": "t_need", "say": {"text": {"en": "What do you need? How much, frozen or chilled, and from when?"}}, "kind": "open_ask", "fields": ["temperature", "stock", "start_date"], "missing": "one_by_one"}, {"id": "t_temp", "say": {"text": {"en": "Frozen or chilled?"}}, "why": {"en": "Each has halls of its own."}, "kind": "ask", "field": "temperature", "short": {"en": "Frozen, or chilled?"}, "tries": 3, "way_out": "go_on"}, {"id": "t_stock", "say": {"text": {"en": "Roughly how many pallets?"}}, "why": {"en": "It tells us which depot has room."}, "kind": "ask", "skip": {"en": "I don’t know yet"}, "field": "stock", "short": {"en": "How many pallets, roughly?"}, "tries": 3, "way_out": "go_on"}, {"id": "t_start", "say": {"text": {"en": "When would you start?"}}, "why": {"en": "So that we can keep the room free."}, "kind": "ask", "skip": {"en": "Not decided"}, "field": "start_date", "tries": 3, "way_out": "go_on"}, {"id": "t_services", "say": {"text": {"en": "Anything else we can do? Two at most."}}, "kind": "ask", "skip": {"en": "Nothing else"}, "field": "services", "tries": 3, "way_out": "go_on"}, {"id": "t_urgency", "say": {"text": {"en": "How soon should we call, from 1 to 5?"}}, "kind": "ask", "skip": {"en": "It doesn’t matter"}, "field": "urgency", "tries": 3, "way_out": "go_on"}]}, {"id": "who", "then": {"close": {"outcome": "lead"}}, "title": "Who to call", "turns": [{"id": "t_consent", "say": {"text": {"en": "May we write to you about this? We use your details for this enquiry only."}}, "why": {"en": "We ask before we keep anything about you."}, "kind": "ask", "field": "may_write", "tries": 3, "way_out": "go_on"}, {"id": "t_who", "say": {"text": {"en": "Who shall we ask for?"}}, "kind": "ask_together", "tries": 3, "fields": [{"field": "name", "rules": [{"rule": "required"}]}, {"field": "company"}, {"field": "email"}, {"field": "phone", "rules": [{"rule": "required"}]}], "way_out": "go_on"}, {"id": "t_back", "say": {"text": {"en": "Is this right?"}}, "kind": "read_back", "fields": ["temperature", "stock", "start_date", "name", "email", "phone"]}, {"id": "t_file", "kind": "file_lead"}, {"id": "t_done", "say": {"text": {"en": "Thank you, {name.given|we have it}. We will call you."}}, "kind": "close", "outcome": "lead"}]}, {"id": "look", "then": {"close": {"outcome": "looking"}}, "title": "Just looking", "turns": [{"id": "t_look", "say": [{"line": {"text": {"en": "Have a look round. We are here when you need us."}}}], "kind": "tell"}]}], "settings": {"pace": "by_length", "country": "GB", "currency": "GBP", "time_zone": "Europe/London", "nudge_seconds": 120, "extras_per_ask": 6, "entries_per_section": 25}, "side_talk": [{"id": "price", "does": {"answer": [{"line": {"text": {"en": "Frozen storage starts at £4.20 a pallet and week; the call gives you a firm price."}}}]}, "matches": "part", "phrases": {"en": ["how much does it cost", "what does it cost", "price", "prices"]}}, {"id": "where", "does": {"answer": [{"line": {"text": {"en": "In Aldermoor, Saltwick and Tarn Quay."}}}]}, "matches": "part", "phrases": {"en": ["where are you", "where are your depots", "which depots"]}}, {"id": "looking", "does": {"go_to": "look"}, "matches": "whole", "phrases": {"en": ["just looking", "only looking"]}}]}', '2026-11-28 08:05:18.017204+00', '01a2212f-e9a3-76a3-8cbc-8b4bd3d6b72e', 1);


--
-- Data for Name: fields; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'fld_interest', 'interest', '{"id": "fld_interest", "key": "interest", "type": "choice", "label": "Interest", "record": "lead", "options": [{"key": "storage", "also": ["storage", "pallet storage", "warehouse", "store pallets"], "label": {"en": "Cold storage"}}, {"key": "blast", "also": ["freezing"], "label": {"en": "Blast freezing"}}, {"key": "customer", "also": ["existing customer", "my order", "my pallets", "account"], "label": {"en": "I am a customer already"}}, {"key": "looking", "also": ["browsing", "nothing", "just browsing"], "label": {"en": "Just looking"}}]}', '2026-11-28 08:05:17.94003+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'fld_temperature', 'temperature', '{"id": "fld_temperature", "key": "temperature", "type": "choice", "label": "Temperature", "rules": [{"rule": "required"}], "record": "lead", "options": [{"key": "frozen", "also": ["minus 18", "deep freeze", "freezer", "-18"], "hint": {"en": "−18 °C or below"}, "label": {"en": "Frozen"}}, {"key": "chilled", "also": ["fridge", "plus 4", "cool"], "hint": {"en": "+2 to +5 °C"}, "label": {"en": "Chilled"}}, {"key": "ambient", "also": ["ambient", "dry", "room temperature", "dry goods"], "hint": {"en": "dry goods, room temperature"}, "label": {"en": "Not chilled"}}]}', '2026-11-28 08:05:17.94003+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'fld_blast', 'blast_freezing', '{"id": "fld_blast", "key": "blast_freezing", "type": "yes_no", "label": "Blast freezing", "record": "lead"}', '2026-11-28 08:05:17.94003+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'fld_pallets', 'pallets', '{"id": "fld_pallets", "key": "pallets", "note": "At their busiest.", "type": "whole_number", "unit": "pallets", "label": "Pallets", "rules": [{"max": "4000", "min": "1", "rule": "range"}], "record": "lead"}', '2026-11-28 08:05:17.94003+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'fld_start', 'start', '{"id": "fld_start", "key": "start", "type": "choice", "label": "Start", "record": "lead", "options": [{"key": "soon", "also": ["asap", "now", "soon", "next month", "this month", "straight away"], "label": {"en": "Within 8 weeks"}}, {"key": "half_year", "also": ["in a few months", "spring", "next quarter"], "label": {"en": "In 9 to 26 weeks"}}, {"key": "later", "also": ["next year", "no hurry"], "label": {"en": "Later"}}]}', '2026-11-28 08:05:17.94003+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'fld_role', 'role', '{"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "record": "contact", "options": [{"key": "owner", "also": ["owner", "director", "managing director", "founder", "ceo"], "label": {"en": "Owner or director"}}, {"key": "manager", "also": ["operations manager", "logistics manager"], "label": {"en": "Manager"}}, {"key": "quotes", "also": ["buyer", "getting quotes", "comparing"], "label": {"en": "Gathering quotes"}}]}', '2026-11-28 08:05:17.94003+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'fld_name', 'name', '{"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "rules": [{"rule": "full_name"}], "record": "contact", "personal": true}', '2026-11-28 08:05:17.94003+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'fld_company', 'company', '{"id": "fld_company", "key": "company", "type": "company", "label": "Company", "record": "company"}', '2026-11-28 08:05:17.94003+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'fld_email', 'email', '{"id": "fld_email", "key": "email", "type": "email", "label": "Email", "rules": [{"rule": "company_address"}], "record": "contact", "personal": true}', '2026-11-28 08:05:17.94003+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'fld_phone', 'phone', '{"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "record": "contact", "personal": true}', '2026-11-28 08:05:17.94003+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'fld_estimate', 'weekly_estimate', '{"id": "fld_estimate", "key": "weekly_estimate", "type": "money", "label": "Weekly estimate", "record": "lead"}', '2026-11-28 08:05:17.94003+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'f_stock', 'stock', '{"id": "f_stock", "key": "stock", "type": "quantity", "unit": "pallets", "label": "Stock", "rules": [{"max": "20000", "min": "1", "rule": "range"}], "record": "lead"}', '2026-11-28 08:05:18.017204+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'f_start_date', 'start_date', '{"id": "f_start_date", "key": "start_date", "type": "date", "label": "Start date", "rules": [{"rule": "not_past"}], "record": "lead"}', '2026-11-28 08:05:18.017204+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'f_services', 'services', '{"id": "f_services", "key": "services", "type": "choices", "label": "Services", "rules": [{"n": 2, "rule": "at_most"}], "record": "lead", "options": [{"key": "blast", "also": ["blast"], "label": {"en": "Blast freezing"}}, {"key": "haulage", "also": ["haulage", "transport", "delivery"], "label": {"en": "Chilled haulage"}}, {"key": "picking", "also": ["picking", "packing"], "label": {"en": "Picking and packing"}}]}', '2026-11-28 08:05:18.017204+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'f_urgency', 'urgency', '{"id": "f_urgency", "key": "urgency", "type": "scale", "label": "Urgency", "record": "lead", "options": [{"key": "1", "label": {"en": "1, no hurry"}}, {"key": "2", "label": {"en": "2"}}, {"key": "3", "label": {"en": "3"}}, {"key": "4", "label": {"en": "4"}}, {"key": "5", "label": {"en": "5, this week"}}]}', '2026-11-28 08:05:18.017204+00');
INSERT INTO public.fields VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'f_consent', 'may_write', '{"id": "f_consent", "key": "may_write", "type": "consent", "label": "May write", "record": "contact"}', '2026-11-28 08:05:18.017204+00');


--
-- Data for Name: lead_log; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.lead_log OVERRIDING SYSTEM VALUE VALUES (1, '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac4-72b8-867d-44be7549cedd', '2026-11-28 08:05:18.138792+00', NULL, 'Filed from “Storage enquiry”');
INSERT INTO public.lead_log OVERRIDING SYSTEM VALUE VALUES (2, '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eadb-727c-9dec-5202ccc86982', '2026-11-28 08:05:18.167312+00', NULL, 'Filed from “Storage enquiry”');
INSERT INTO public.lead_log OVERRIDING SYSTEM VALUE VALUES (3, '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eaee-7341-be0c-b9c2825ccb4d', '2026-11-28 08:05:18.18598+00', NULL, 'Filed from “Storage enquiry”');
INSERT INTO public.lead_log OVERRIDING SYSTEM VALUE VALUES (4, '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb06-74c7-9d20-b430eab60240', '2026-11-28 08:05:18.206335+00', NULL, 'Filed from “Storage enquiry”');
INSERT INTO public.lead_log OVERRIDING SYSTEM VALUE VALUES (5, '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb20-7561-b859-eba5847bc881', '2026-11-28 08:05:18.236869+00', NULL, 'Filed from “Storage enquiry”');
INSERT INTO public.lead_log OVERRIDING SYSTEM VALUE VALUES (6, '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eb35-739d-a9d9-af05f83d805f', '2026-11-28 08:05:18.257159+00', NULL, 'Filed from “Storage enquiry”');
INSERT INTO public.lead_log OVERRIDING SYSTEM VALUE VALUES (13, '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-eac4-72b8-867d-44be7549cedd', '2026-11-28 09:00:00+00', '01a2212f-e9a4-705a-9d92-1436d3eec882', 'Called');


--
-- Data for Name: leads; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.leads VALUES ('01a2212f-eadb-727c-9dec-5202ccc86982', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '01a2212f-eac7-733a-8dba-72408a8feae6', '01a2212f-ead8-7777-80cb-99b7213306da', '01a2212f-ead8-7777-80cb-99b6da011186', '01a2212f-e9a8-70a5-a4f1-ccf9c7f057a2', '01a2212f-e9a5-71b2-b4eb-119657495391', '[{"id": "fld_interest", "key": "interest", "type": "choice", "label": "Interest", "shown": "Cold storage", "value": "storage", "record": "lead"}, {"id": "fld_temperature", "key": "temperature", "type": "choice", "label": "Temperature", "shown": "Chilled", "value": "chilled", "record": "lead"}, {"id": "fld_pallets", "key": "pallets", "type": "whole_number", "label": "Pallets", "shown": "60 to 80 pallets", "value": {"low": "60", "high": "80", "amount": "70"}, "record": "lead"}, {"id": "fld_start", "key": "start", "type": "choice", "label": "Start", "shown": "In 9 to 26 weeks", "value": "half_year", "record": "lead"}, {"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "shown": "Gathering quotes", "value": "quotes", "record": "contact"}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "shown": "Sami Haddad", "value": {"full": "Sami Haddad", "given": "Sami", "family": "Haddad"}, "record": "contact"}, {"id": "fld_company", "key": "company", "type": "company", "label": "Company", "shown": "Olive Press Deli", "value": "Olive Press Deli", "record": "company"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "shown": "sami@olivepress.example", "value": "sami@olivepress.example", "record": "contact"}, {"id": "fld_estimate", "key": "weekly_estimate", "type": "money", "label": "Weekly estimate", "shown": "£234.50", "value": {"amount": "234.50", "currency": "GBP"}, "record": "lead"}]', '{"band": "nurture", "total": 10, "unknown": ["c_blast"], "scorecard": "fit", "band_label": "Nurture", "dimensions": [{"id": "need", "sum": 10, "title": "Need", "counts": 10, "ceiling": 45, "criteria": [{"id": "c_frozen", "label": "Temperature is Frozen", "points": 0}, {"id": "c_blast", "label": "Blast freezing is yes", "points": 0, "unknown": true}, {"id": "c_pallets", "label": "Pallets 60 to 80", "points": 10}]}, {"id": "authority", "sum": -10, "title": "Authority", "counts": -10, "ceiling": 25, "criteria": [{"id": "c_owner", "label": "Role is Owner or director", "points": 0}, {"id": "c_quotes", "label": "Role is Gathering quotes", "points": -10}]}, {"id": "timing", "sum": 10, "title": "Timing", "counts": 10, "ceiling": 25, "criteria": [{"id": "c_soon", "label": "Start is Within 8 weeks", "points": 0}, {"id": "c_half", "label": "Start is In 9 to 26 weeks", "points": 10}]}], "band_by_points": "nurture"}', 10, 'nurture', 'Nurture', 0, '{"queue": "saltwick", "steps": ["Band is hot: does not hold", "Temperature is Chilled: queue saltwick", "Saltwick queue: Joss Calder is first in rotation"]}', '[{"who": "us", "text": "What can we help you with?"}, {"who": "you", "text": "storage"}, {"who": "us", "text": "A few quick questions about your load."}, {"who": "us", "text": "How cold does it have to be?"}, {"who": "you", "text": "chilled"}, {"who": "us", "text": "Roughly how many pallets at your busiest?"}, {"who": "you", "text": "what do you want that for?"}, {"who": "us", "text": "It tells us which depot has room."}, {"who": "us", "text": "How many pallets, roughly?"}, {"who": "you", "text": "60-80"}, {"who": "us", "text": "For 60 to 80 pallets we would expect about £234.50 a week, handling included."}, {"who": "us", "text": "When would the first pallets arrive?"}, {"who": "you", "text": "next quarter"}, {"who": "us", "text": "What is your part in the decision?"}, {"who": "you", "text": "getting quotes"}, {"who": "us", "text": "Who should we ask for?"}, {"who": "you", "text": "Sami Haddad"}, {"who": "us", "text": "And the company?"}, {"who": "you", "text": "Olive Press Deli"}, {"who": "us", "text": "Which address at Olive Press Deli should we send the estimate to?"}, {"who": "you", "text": "sami@gmail.com"}, {"who": "again", "text": "gmail.com is a personal mail service. Please give your address at the company."}, {"who": "you", "text": "sami@olivepress.example"}, {"who": "us", "text": "And a number to reach you on?"}, {"who": "you", "text": "E-mail is enough"}]', 'new', NULL, 1, 1, '2026-11-25 08:27:32.151314+00', '2026-11-28 08:05:18.167312+00');
INSERT INTO public.leads VALUES ('01a2212f-eaee-7341-be0c-b9c2825ccb4d', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '01a2212f-eadd-723f-af31-bd564f0fb82c', '01a2212f-eaeb-74e6-8a12-5837a657f6d4', '01a2212f-eaeb-74e6-8a12-5836b222116e', '01a2212f-e9a9-70f8-b486-c9408e9e393e', '01a2212f-e9a5-71b2-b4eb-119419c6d32f', '[{"id": "fld_interest", "key": "interest", "type": "choice", "label": "Interest", "shown": "Blast freezing", "value": "blast", "record": "lead"}, {"id": "fld_temperature", "key": "temperature", "type": "choice", "label": "Temperature", "shown": "Frozen", "value": "frozen", "record": "lead"}, {"id": "fld_blast", "key": "blast_freezing", "type": "yes_no", "label": "Blast freezing", "shown": "Yes", "value": true, "record": "lead"}, {"id": "fld_pallets", "key": "pallets", "type": "whole_number", "label": "Pallets", "shown": "250 pallets", "value": "250", "record": "lead"}, {"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "shown": "Owner or director", "value": "owner", "record": "contact"}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "shown": "Maud Ekström", "value": {"full": "Maud Ekström", "given": "Maud", "family": "Ekström"}, "record": "contact"}, {"id": "fld_company", "key": "company", "type": "company", "label": "Company", "shown": "Ekström Berries", "value": "Ekström Berries", "record": "company"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "shown": "maud@ekstromberries.example", "value": "maud@ekstromberries.example", "record": "contact"}, {"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "shown": "+44 20 7946 0588", "value": "+442079460588", "record": "contact"}, {"id": "fld_estimate", "key": "weekly_estimate", "type": "money", "label": "Weekly estimate", "shown": "£1,025.00", "value": {"amount": "1025.00", "currency": "GBP"}, "record": "lead"}]', '{"band": "hot", "total": 70, "unknown": ["c_soon", "c_half"], "band_from": 70, "scorecard": "fit", "band_label": "Hot", "dimensions": [{"id": "need", "sum": 52, "title": "Need", "counts": 45, "ceiling": 45, "criteria": [{"id": "c_frozen", "label": "Temperature is Frozen", "points": 15}, {"id": "c_blast", "label": "Blast freezing is yes", "points": 12}, {"id": "c_pallets", "label": "Pallets 250", "points": 25}]}, {"id": "authority", "sum": 25, "title": "Authority", "counts": 25, "ceiling": 25, "criteria": [{"id": "c_owner", "label": "Role is Owner or director", "points": 25}, {"id": "c_quotes", "label": "Role is Gathering quotes", "points": 0}]}, {"id": "timing", "sum": 0, "title": "Timing", "counts": 0, "ceiling": 25, "criteria": [{"id": "c_soon", "label": "Start is Within 8 weeks", "points": 0, "unknown": true}, {"id": "c_half", "label": "Start is In 9 to 26 weeks", "points": 0, "unknown": true}]}], "band_by_points": "hot"}', 70, 'hot', 'Hot', 2, '{"queue": "senior", "steps": ["Band is hot: queue senior", "Senior queue: Tobias Rell is next in rotation after Maren Holt"]}', '[{"who": "us", "text": "What can we help you with?"}, {"who": "you", "text": "Blast freezing"}, {"who": "us", "text": "A few quick questions about your load."}, {"who": "us", "text": "How cold does it have to be?"}, {"who": "you", "text": "frozen"}, {"who": "us", "text": "Does any of it need blast freezing first?"}, {"who": "you", "text": "yes"}, {"who": "us", "text": "Roughly how many pallets at your busiest?"}, {"who": "you", "text": "250"}, {"who": "us", "text": "That is a load our depot leads look after in person."}, {"who": "us", "text": "What is your part in the decision?"}, {"who": "you", "text": "owner"}, {"who": "us", "text": "Who should we ask for?"}, {"who": "you", "text": "Maud Ekström"}, {"who": "us", "text": "And the company?"}, {"who": "you", "text": "Ekström Berries"}, {"who": "us", "text": "Which address at Ekström Berries should we send the estimate to?"}, {"who": "you", "text": "maud@ekstromberries.example"}, {"who": "us", "text": "And a number to reach you on?"}, {"who": "you", "text": "020 7946 0588"}]', 'new', NULL, 1, 1, '2026-11-26 04:27:42.173243+00', '2026-11-28 08:05:18.18598+00');
INSERT INTO public.leads VALUES ('01a2212f-eb06-74c7-9d20-b430eab60240', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '01a2212f-eaf0-765c-ac0b-ec0cd896d736', '01a2212f-eb01-709a-b3f8-59f919f93195', '01a2212f-eaff-7525-95f9-9452cbf02a68', '01a2212f-e9a6-712b-8c3a-be2788eed77b', '01a2212f-e9a4-705a-9d92-1436d3eec882', '[{"id": "fld_interest", "key": "interest", "type": "choice", "label": "Interest", "shown": "Cold storage", "value": "storage", "record": "lead"}, {"id": "fld_temperature", "key": "temperature", "type": "choice", "label": "Temperature", "shown": "Frozen", "value": "frozen", "record": "lead"}, {"id": "fld_blast", "key": "blast_freezing", "type": "yes_no", "label": "Blast freezing", "shown": "No", "value": false, "record": "lead"}, {"id": "fld_pallets", "key": "pallets", "type": "whole_number", "label": "Pallets", "shown": "8 pallets", "value": "8", "record": "lead"}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "shown": "Jon Petrie", "value": {"full": "Jon Petrie", "given": "Jon", "family": "Petrie"}, "record": "contact"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "shown": "jon@petrie.example", "value": "jon@petrie.example", "record": "contact"}, {"id": "fld_estimate", "key": "weekly_estimate", "type": "money", "label": "Weekly estimate", "shown": "£32.80", "value": {"amount": "32.80", "currency": "GBP"}, "record": "lead"}]', '{"band": "nurture", "total": 15, "unknown": ["c_owner", "c_quotes", "c_soon", "c_half"], "scorecard": "fit", "band_label": "Nurture", "dimensions": [{"id": "need", "sum": 15, "title": "Need", "counts": 15, "ceiling": 45, "criteria": [{"id": "c_frozen", "label": "Temperature is Frozen", "points": 15}, {"id": "c_blast", "label": "Blast freezing is yes", "points": 0}, {"id": "c_pallets", "label": "Pallets", "points": 0}]}, {"id": "authority", "sum": 0, "title": "Authority", "counts": 0, "ceiling": 25, "criteria": [{"id": "c_owner", "label": "Role is Owner or director", "points": 0, "unknown": true}, {"id": "c_quotes", "label": "Role is Gathering quotes", "points": 0, "unknown": true}]}, {"id": "timing", "sum": 0, "title": "Timing", "counts": 0, "ceiling": 25, "criteria": [{"id": "c_soon", "label": "Start is Within 8 weeks", "points": 0, "unknown": true}, {"id": "c_half", "label": "Start is In 9 to 26 weeks", "points": 0, "unknown": true}]}], "band_by_points": "nurture"}', 15, 'nurture', 'Nurture', 0, '{"queue": "aldermoor", "steps": ["Band is hot: does not hold", "Temperature is Chilled: does not hold", "otherwise: queue aldermoor", "Aldermoor queue: Maren Holt is first in rotation"]}', '[{"who": "us", "text": "What can we help you with?"}, {"who": "you", "text": "storage"}, {"who": "us", "text": "A few questions about what you need to keep cold."}, {"who": "us", "text": "How cold does it have to be?"}, {"who": "you", "text": "frozen"}, {"who": "us", "text": "Does any of it need blast freezing first?"}, {"who": "you", "text": "no"}, {"who": "us", "text": "Roughly how many pallets at your busiest?"}, {"who": "you", "text": "8"}, {"who": "us", "text": "For 8 pallets we would expect about £32.80 a week, handling included."}, {"who": "us", "text": "When would the first pallets arrive?"}, {"who": "you", "text": "I don’t know yet"}, {"who": "us", "text": "What is your part in the decision?"}, {"who": "you", "text": "rather not"}, {"who": "us", "text": "Who should we ask for?"}, {"who": "you", "text": "Jon Petrie"}, {"who": "us", "text": "And the company?"}, {"who": "you", "text": "none of your business really"}, {"who": "us", "text": "Which address at your company should we send the estimate to?"}, {"who": "you", "text": "jon@petrie.example"}, {"who": "us", "text": "And a number to reach you on?"}, {"who": "you", "text": "E-mail is enough"}]', 'new', NULL, 1, 1, '2026-11-26 07:48:11.191956+00', '2026-11-28 08:05:18.206335+00');
INSERT INTO public.leads VALUES ('01a2212f-eb20-7561-b859-eba5847bc881', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '01a2212f-eb11-713e-a330-4b0f36678d87', '01a2212f-eb1e-743b-90ec-41b03fa4ff56', '01a2212f-eb1d-75c1-a991-2f0ca5a8c015', '01a2212f-e9a8-70a5-a4f1-ccf9c7f057a2', '01a2212f-e9a4-705a-9d92-1436d3eec882', '[{"id": "fld_interest", "key": "interest", "type": "choice", "label": "Interest", "shown": "Cold storage", "value": "storage", "record": "lead"}, {"id": "fld_temperature", "key": "temperature", "type": "choice", "label": "Temperature", "shown": "Chilled", "value": "chilled", "record": "lead"}, {"id": "fld_pallets", "key": "pallets", "type": "whole_number", "label": "Pallets", "shown": "70 pallets", "value": "70", "record": "lead"}, {"id": "fld_start", "key": "start", "type": "choice", "label": "Start", "shown": "In 9 to 26 weeks", "value": "half_year", "record": "lead"}, {"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "shown": "Manager", "value": "manager", "record": "contact"}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "shown": "Ivo Brandt", "value": {"full": "Ivo Brandt", "given": "Ivo", "family": "Brandt"}, "record": "contact"}, {"id": "fld_company", "key": "company", "type": "company", "label": "Company", "shown": "Mossfield Dairy", "value": "Mossfield Dairy", "record": "company"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "shown": "ivo@mossfield.example", "value": "ivo@mossfield.example", "record": "contact"}, {"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "shown": "+44 20 7946 0511", "value": "+442079460511", "record": "contact"}, {"id": "fld_estimate", "key": "weekly_estimate", "type": "money", "label": "Weekly estimate", "shown": "£234.50", "value": {"amount": "234.50", "currency": "GBP"}, "record": "lead"}]', '{"band": "nurture", "total": 20, "unknown": ["c_blast"], "scorecard": "fit", "band_label": "Nurture", "dimensions": [{"id": "need", "sum": 10, "title": "Need", "counts": 10, "ceiling": 45, "criteria": [{"id": "c_frozen", "label": "Temperature is Frozen", "points": 0}, {"id": "c_blast", "label": "Blast freezing is yes", "points": 0, "unknown": true}, {"id": "c_pallets", "label": "Pallets 70", "points": 10}]}, {"id": "authority", "sum": 0, "title": "Authority", "counts": 0, "ceiling": 25, "criteria": [{"id": "c_owner", "label": "Role is Owner or director", "points": 0}, {"id": "c_quotes", "label": "Role is Gathering quotes", "points": 0}]}, {"id": "timing", "sum": 10, "title": "Timing", "counts": 10, "ceiling": 25, "criteria": [{"id": "c_soon", "label": "Start is Within 8 weeks", "points": 0}, {"id": "c_half", "label": "Start is In 9 to 26 weeks", "points": 10}]}], "band_by_points": "nurture"}', 20, 'nurture', 'Nurture', 0, '{"queue": "saltwick", "steps": ["Band is hot: does not hold", "Temperature is Chilled: queue saltwick", "Saltwick queue: Maren Holt is next in rotation after Joss Calder"]}', '[{"who": "us", "text": "What can we help you with?"}, {"who": "you", "text": "storage"}, {"who": "us", "text": "A few questions about what you need to keep cold."}, {"who": "us", "text": "How cold does it have to be?"}, {"who": "you", "text": "chilled"}, {"who": "us", "text": "Roughly how many pallets at your busiest?"}, {"who": "you", "text": "70"}, {"who": "us", "text": "For 70 pallets we would expect about £234.50 a week, handling included."}, {"who": "us", "text": "When would the first pallets arrive?"}, {"who": "you", "text": "spring"}, {"who": "us", "text": "What is your part in the decision?"}, {"who": "you", "text": "manager"}, {"who": "us", "text": "Who should we ask for?"}, {"who": "you", "text": "Ivo Brandt"}, {"who": "us", "text": "And the company?"}, {"who": "you", "text": "Mossfield Dairy"}, {"who": "us", "text": "Which address at Mossfield Dairy should we send the estimate to?"}, {"who": "you", "text": "ivo@mossfield.example"}, {"who": "us", "text": "And a number to reach you on?"}, {"who": "you", "text": "020 7946 0511"}]', 'new', NULL, 1, 1, '2026-11-27 05:47:22.22486+00', '2026-11-28 08:05:18.236869+00');
INSERT INTO public.leads VALUES ('01a2212f-eb35-739d-a9d9-af05f83d805f', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '01a2212f-eb23-70b0-a4b1-828ac0d5f70f', '01a2212f-eb32-75b0-b8f7-7a33e4bc9b0b', '01a2212f-eb32-75b0-b8f7-7a326d97d37a', '01a2212f-e9a9-70f8-b486-c9408e9e393e', '01a2212f-e9a4-705a-9d92-1436d3eec882', '[{"id": "fld_interest", "key": "interest", "type": "choice", "label": "Interest", "shown": "Cold storage", "value": "storage", "record": "lead"}, {"id": "fld_temperature", "key": "temperature", "type": "choice", "label": "Temperature", "shown": "Frozen", "value": "frozen", "record": "lead"}, {"id": "fld_blast", "key": "blast_freezing", "type": "yes_no", "label": "Blast freezing", "shown": "Yes", "value": true, "record": "lead"}, {"id": "fld_pallets", "key": "pallets", "type": "whole_number", "label": "Pallets", "shown": "90 pallets", "value": "90", "record": "lead"}, {"id": "fld_start", "key": "start", "type": "choice", "label": "Start", "shown": "Within 8 weeks", "value": "soon", "record": "lead"}, {"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "shown": "Owner or director", "value": "owner", "record": "contact"}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "shown": "Ada Moreno", "value": {"full": "Ada Moreno", "given": "Ada", "family": "Moreno"}, "record": "contact"}, {"id": "fld_company", "key": "company", "type": "company", "label": "Company", "shown": "Blue Heron Ices", "value": "Blue Heron Ices", "record": "company"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "shown": "ada@blueheron.example", "value": "ada@blueheron.example", "record": "contact"}, {"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "shown": "+44 20 7946 0467", "value": "+442079460467", "record": "contact"}, {"id": "fld_estimate", "key": "weekly_estimate", "type": "money", "label": "Weekly estimate", "shown": "£369.00", "value": {"amount": "369.00", "currency": "GBP"}, "record": "lead"}]', '{"band": "hot", "total": 87, "band_from": 70, "scorecard": "fit", "band_label": "Hot", "dimensions": [{"id": "need", "sum": 37, "title": "Need", "counts": 37, "ceiling": 45, "criteria": [{"id": "c_frozen", "label": "Temperature is Frozen", "points": 15}, {"id": "c_blast", "label": "Blast freezing is yes", "points": 12}, {"id": "c_pallets", "label": "Pallets 90", "points": 10}]}, {"id": "authority", "sum": 25, "title": "Authority", "counts": 25, "ceiling": 25, "criteria": [{"id": "c_owner", "label": "Role is Owner or director", "points": 25}, {"id": "c_quotes", "label": "Role is Gathering quotes", "points": 0}]}, {"id": "timing", "sum": 25, "title": "Timing", "counts": 25, "ceiling": 25, "criteria": [{"id": "c_soon", "label": "Start is Within 8 weeks", "points": 25}, {"id": "c_half", "label": "Start is In 9 to 26 weeks", "points": 0}]}], "band_by_points": "hot"}', 87, 'hot', 'Hot', 2, '{"queue": "senior", "steps": ["Band is hot: queue senior", "Senior queue: Maren Holt is next in rotation after Tobias Rell"]}', '[{"who": "us", "text": "What can we help you with?"}, {"who": "you", "text": "storage"}, {"who": "us", "text": "A few quick questions about your load."}, {"who": "us", "text": "How cold does it have to be?"}, {"who": "you", "text": "frozen"}, {"who": "us", "text": "Does any of it need blast freezing first?"}, {"who": "you", "text": "some, yes"}, {"who": "us", "text": "Roughly how many pallets at your busiest?"}, {"who": "you", "text": "90"}, {"who": "us", "text": "For 90 pallets we would expect about £369.00 a week, handling included."}, {"who": "us", "text": "When would the first pallets arrive?"}, {"who": "you", "text": "soon"}, {"who": "us", "text": "What is your part in the decision?"}, {"who": "you", "text": "owner"}, {"who": "us", "text": "Who should we ask for?"}, {"who": "you", "text": "Ada Moreno"}, {"who": "us", "text": "And the company?"}, {"who": "you", "text": "Blue Heron Ices"}, {"who": "us", "text": "Which address at Blue Heron Ices should we send the estimate to?"}, {"who": "you", "text": "ada@blueheron.example"}, {"who": "us", "text": "And a number to reach you on?"}, {"who": "you", "text": "020 7946 0467"}]', 'new', NULL, 1, 1, '2026-11-27 07:07:55.242822+00', '2026-11-28 08:05:18.257159+00');
INSERT INTO public.leads VALUES ('01a2212f-eac4-72b8-867d-44be7549cedd', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', '01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '01a2212f-ea4c-7079-b499-038e351738eb', '01a2212f-eabe-744f-9d0b-b451d0a48eb6', '01a2212f-eabc-7046-b0b9-9767e0a571eb', '01a2212f-e9a9-70f8-b486-c9408e9e393e', '01a2212f-e9a4-705a-9d92-1436d3eec882', '[{"id": "fld_interest", "key": "interest", "type": "choice", "label": "Interest", "shown": "Cold storage", "value": "storage", "record": "lead"}, {"id": "fld_temperature", "key": "temperature", "type": "choice", "label": "Temperature", "shown": "Frozen", "value": "frozen", "record": "lead"}, {"id": "fld_blast", "key": "blast_freezing", "type": "yes_no", "label": "Blast freezing", "shown": "No", "value": false, "record": "lead"}, {"id": "fld_pallets", "key": "pallets", "type": "whole_number", "label": "Pallets", "shown": "55 pallets", "value": "55", "record": "lead"}, {"id": "fld_start", "key": "start", "type": "choice", "label": "Start", "shown": "Within 8 weeks", "value": "soon", "record": "lead"}, {"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "shown": "Owner or director", "value": "owner", "record": "contact"}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "shown": "Nia Pryce", "value": {"full": "Nia Pryce", "given": "Nia", "family": "Pryce"}, "record": "contact"}, {"id": "fld_company", "key": "company", "type": "company", "label": "Company", "shown": "Pryce & Daughters", "value": "Pryce & Daughters", "record": "company"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "shown": "nia@pryce.example", "value": "nia@pryce.example", "record": "contact"}, {"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "shown": "+44 20 7946 0642", "value": "+442079460642", "record": "contact"}, {"id": "fld_estimate", "key": "weekly_estimate", "type": "money", "label": "Weekly estimate", "shown": "£225.50", "value": {"amount": "225.50", "currency": "GBP"}, "record": "lead"}]', '{"band": "hot", "total": 75, "band_from": 70, "scorecard": "fit", "band_label": "Hot", "dimensions": [{"id": "need", "sum": 25, "title": "Need", "counts": 25, "ceiling": 45, "criteria": [{"id": "c_frozen", "label": "Temperature is Frozen", "points": 15}, {"id": "c_blast", "label": "Blast freezing is yes", "points": 0}, {"id": "c_pallets", "label": "Pallets 55", "points": 10}]}, {"id": "authority", "sum": 25, "title": "Authority", "counts": 25, "ceiling": 25, "criteria": [{"id": "c_owner", "label": "Role is Owner or director", "points": 25}, {"id": "c_quotes", "label": "Role is Gathering quotes", "points": 0}]}, {"id": "timing", "sum": 25, "title": "Timing", "counts": 25, "ceiling": 25, "criteria": [{"id": "c_soon", "label": "Start is Within 8 weeks", "points": 25}, {"id": "c_half", "label": "Start is In 9 to 26 weeks", "points": 0}]}], "band_by_points": "hot"}', 75, 'hot', 'Hot', 2, '{"queue": "senior", "steps": ["Band is hot: queue senior", "Senior queue: Maren Holt is first in rotation"]}', '[{"who": "us", "text": "What can we help you with?"}, {"who": "you", "text": "storage"}, {"who": "us", "text": "A few questions about what you need to keep cold."}, {"who": "us", "text": "How cold does it have to be?"}, {"who": "you", "text": "frozen"}, {"who": "us", "text": "Does any of it need blast freezing first?"}, {"who": "you", "text": "no"}, {"who": "us", "text": "Roughly how many pallets at your busiest?"}, {"who": "you", "text": "55"}, {"who": "us", "text": "For 55 pallets we would expect about £225.50 a week, handling included."}, {"who": "us", "text": "When would the first pallets arrive?"}, {"who": "you", "text": "asap"}, {"who": "us", "text": "What is your part in the decision?"}, {"who": "you", "text": "founder"}, {"who": "us", "text": "Who should we ask for?"}, {"who": "you", "text": "Nia Pryce"}, {"who": "us", "text": "And the company?"}, {"who": "you", "text": "Pryce & Daughters"}, {"who": "us", "text": "Which address at Pryce & Daughters should we send the estimate to?"}, {"who": "you", "text": "nia@pryce.example"}, {"who": "us", "text": "And a number to reach you on?"}, {"who": "you", "text": "020 7946 0642"}]', 'called', NULL, 1, 1, '2026-11-24 17:27:45.025292+00', '2026-11-28 08:05:18.138792+00');


--
-- Data for Name: media; Type: TABLE DATA; Schema: public; Owner: -
--



--
-- Data for Name: outbox; Type: TABLE DATA; Schema: public; Owner: -
--



--
-- Data for Name: people; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.people VALUES ('01a2212f-e9a3-76a3-8cbc-8b4bd3d6b72e', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'edda@winterlode.example', 'Edda Quill', 'author', '$argon2id$v=19$m=19456,t=2,p=1$FkB3D7+MS2E2J0iJzflYCA$HjucLwWdSJUYaGdNBohaDUXGHv7gq24wN1q5e/qMeHQ', true, '2026-11-28 08:05:17.85894+00');
INSERT INTO public.people VALUES ('01a2212f-e9a4-705a-9d92-1436d3eec882', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'maren@winterlode.example', 'Maren Holt', 'rep', '$argon2id$v=19$m=19456,t=2,p=1$FkB3D7+MS2E2J0iJzflYCA$HjucLwWdSJUYaGdNBohaDUXGHv7gq24wN1q5e/qMeHQ', true, '2026-11-28 08:05:17.85894+00');
INSERT INTO public.people VALUES ('01a2212f-e9a5-71b2-b4eb-119419c6d32f', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'tobias@winterlode.example', 'Tobias Rell', 'rep', '$argon2id$v=19$m=19456,t=2,p=1$FkB3D7+MS2E2J0iJzflYCA$HjucLwWdSJUYaGdNBohaDUXGHv7gq24wN1q5e/qMeHQ', true, '2026-11-28 08:05:17.85894+00');
INSERT INTO public.people VALUES ('01a2212f-e9a5-71b2-b4eb-11954a91d76f', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'priya@winterlode.example', 'Priya Nand', 'rep_lead', '$argon2id$v=19$m=19456,t=2,p=1$FkB3D7+MS2E2J0iJzflYCA$HjucLwWdSJUYaGdNBohaDUXGHv7gq24wN1q5e/qMeHQ', true, '2026-11-28 08:05:17.85894+00');
INSERT INTO public.people VALUES ('01a2212f-e9a5-71b2-b4eb-119657495391', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'joss@winterlode.example', 'Joss Calder', 'rep', '$argon2id$v=19$m=19456,t=2,p=1$FkB3D7+MS2E2J0iJzflYCA$HjucLwWdSJUYaGdNBohaDUXGHv7gq24wN1q5e/qMeHQ', true, '2026-11-28 08:05:17.85894+00');
INSERT INTO public.people VALUES ('01a2212f-e9a5-71b2-b4eb-11973542baa3', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'admin@winterlode.example', 'Winterlode Administrator', 'administrator', '$argon2id$v=19$m=19456,t=2,p=1$FkB3D7+MS2E2J0iJzflYCA$HjucLwWdSJUYaGdNBohaDUXGHv7gq24wN1q5e/qMeHQ', true, '2026-11-28 08:05:17.85894+00');


--
-- Data for Name: presence; Type: TABLE DATA; Schema: public; Owner: -
--



--
-- Data for Name: queue_members; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.queue_members VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9aa-736d-bcfe-eb32c1d5d928', '01a2212f-e9a5-71b2-b4eb-11954a91d76f', 0, 1, 0);
INSERT INTO public.queue_members VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9a8-70a5-a4f1-ccf9c7f057a2', '01a2212f-e9a5-71b2-b4eb-119657495391', 0, 1, -1);
INSERT INTO public.queue_members VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9a8-70a5-a4f1-ccf9c7f057a2', '01a2212f-e9a4-705a-9d92-1436d3eec882', 1, 1, 1);
INSERT INTO public.queue_members VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9a6-712b-8c3a-be2788eed77b', '01a2212f-e9a4-705a-9d92-1436d3eec882', 0, 2, 0);
INSERT INTO public.queue_members VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9a6-712b-8c3a-be2788eed77b', '01a2212f-e9a5-71b2-b4eb-119419c6d32f', 1, 1, 0);
INSERT INTO public.queue_members VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9a9-70f8-b486-c9408e9e393e', '01a2212f-e9a4-705a-9d92-1436d3eec882', 0, 1, 0);
INSERT INTO public.queue_members VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9a9-70f8-b486-c9408e9e393e', '01a2212f-e9a5-71b2-b4eb-119419c6d32f', 1, 1, 0);


--
-- Data for Name: queues; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.queues VALUES ('01a2212f-e9a6-712b-8c3a-be2788eed77b', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'aldermoor', 'Aldermoor queue', 'rotation', NULL);
INSERT INTO public.queues VALUES ('01a2212f-e9a8-70a5-a4f1-ccf9c7f057a2', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'saltwick', 'Saltwick queue', 'rotation', NULL);
INSERT INTO public.queues VALUES ('01a2212f-e9a9-70f8-b486-c9408e9e393e', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'senior', 'Senior queue', 'rotation', NULL);
INSERT INTO public.queues VALUES ('01a2212f-e9aa-736d-bcfe-eb32c1d5d928', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'tarn_quay', 'Tarn Quay queue', 'fixed_owner', '01a2212f-e9a5-71b2-b4eb-11954a91d76f');


--
-- Data for Name: releases; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.releases VALUES ('01a2212f-ea3b-71ed-a823-fdd05b7ad27a', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-e9f5-765b-af7f-e0d038058431', 1, 'First release: storage, with prices before names.', '{"id": "storage-enquiry", "brief": {"fit": "Food makers with 50 pallets or more, frozen, starting soon, who talk to us themselves.", "needs": [["pallets"], ["temperature"], ["name"], ["email", "phone"]], "taker": "The depot nearest to the load; hot leads go to the senior reps."}, "title": "Storage enquiry", "fields": [{"id": "fld_interest", "key": "interest", "type": "choice", "label": "Interest", "record": "lead", "options": [{"key": "storage", "also": ["storage", "pallet storage", "warehouse", "store pallets"], "label": {"en": "Cold storage"}}, {"key": "blast", "also": ["freezing"], "label": {"en": "Blast freezing"}}, {"key": "customer", "also": ["existing customer", "my order", "my pallets", "account"], "label": {"en": "I am a customer already"}}, {"key": "looking", "also": ["browsing", "nothing", "just browsing"], "label": {"en": "Just looking"}}]}, {"id": "fld_temperature", "key": "temperature", "type": "choice", "label": "Temperature", "rules": [{"rule": "required"}], "record": "lead", "options": [{"key": "frozen", "also": ["minus 18", "deep freeze", "freezer", "-18"], "hint": {"en": "−18 °C or below"}, "label": {"en": "Frozen"}}, {"key": "chilled", "also": ["fridge", "plus 4", "cool"], "hint": {"en": "+2 to +5 °C"}, "label": {"en": "Chilled"}}, {"key": "ambient", "also": ["ambient", "dry", "room temperature", "dry goods"], "hint": {"en": "dry goods, room temperature"}, "label": {"en": "Not chilled"}}]}, {"id": "fld_blast", "key": "blast_freezing", "type": "yes_no", "label": "Blast freezing", "record": "lead"}, {"id": "fld_pallets", "key": "pallets", "note": "At their busiest.", "type": "whole_number", "unit": "pallets", "label": "Pallets", "rules": [{"max": "4000", "min": "1", "rule": "range"}], "record": "lead"}, {"id": "fld_start", "key": "start", "type": "choice", "label": "Start", "record": "lead", "options": [{"key": "soon", "also": ["asap", "now", "soon", "next month", "this month", "straight away"], "label": {"en": "Within 8 weeks"}}, {"key": "half_year", "also": ["in a few months", "spring", "next quarter"], "label": {"en": "In 9 to 26 weeks"}}, {"key": "later", "also": ["next year", "no hurry"], "label": {"en": "Later"}}]}, {"id": "fld_role", "key": "role", "type": "choice", "label": "Role", "record": "contact", "options": [{"key": "owner", "also": ["owner", "director", "managing director", "founder", "ceo"], "label": {"en": "Owner or director"}}, {"key": "manager", "also": ["operations manager", "logistics manager"], "label": {"en": "Manager"}}, {"key": "quotes", "also": ["buyer", "getting quotes", "comparing"], "label": {"en": "Gathering quotes"}}]}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "rules": [{"rule": "full_name"}], "record": "contact", "personal": true}, {"id": "fld_company", "key": "company", "type": "company", "label": "Company", "record": "company"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "rules": [{"rule": "company_address"}], "record": "contact", "personal": true}, {"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "record": "contact", "personal": true}, {"id": "fld_estimate", "key": "weekly_estimate", "type": "money", "label": "Weekly estimate", "record": "lead"}], "format": "lumbo.dialogue/1", "opening": {"say": {"en": "Hello from Winterlode. Tell us what you need to keep cold, and get a price in two minutes."}, "button": {"en": "Get a price"}}, "routing": {"rules": [{"id": "rt_hot", "holds": {"compare": {"is": "is", "to": "hot", "what": "@band"}}, "queue": "senior"}, {"id": "rt_chilled", "holds": {"compare": {"is": "is", "to": "chilled", "what": "temperature"}}, "queue": "saltwick"}], "otherwise": "aldermoor"}, "language": "en", "outcomes": [{"id": "lead", "class": "lead", "label": "A lead"}, {"id": "not_a_fit", "class": "not_a_fit", "label": "Not a fit"}, {"id": "customer", "class": "customer", "label": "An existing customer"}, {"id": "looking", "class": "looking", "label": "Just looking"}], "sections": [{"id": "welcome", "then": "carry_on", "title": "Welcome", "turns": [{"id": "t_interest", "say": {"text": {"en": "What can we help you with?"}}, "arms": [{"id": "a_customer", "then": {"go_to": "customers"}, "when": {"options": ["customer"]}, "turns": []}, {"id": "a_looking", "then": {"go_to": "looking"}, "when": {"options": ["looking"]}, "turns": []}, {"id": "a_storage", "then": "rejoin", "when": {"options": ["storage", "blast"]}, "turns": []}], "kind": "ask", "field": "interest", "tries": 3, "way_out": "go_on"}]}, {"id": "load", "then": "carry_on", "title": "The load", "turns": [{"id": "t_load", "say": [{"line": {"or": [{"en": "A few quick questions about your load."}], "text": {"en": "A few questions about what you need to keep cold."}}}], "kind": "tell"}, {"id": "t_temperature", "say": {"text": {"en": "How cold does it have to be?"}}, "why": {"en": "It tells us which hall has room for you."}, "arms": [{"id": "a_frozen", "then": "rejoin", "when": {"options": ["frozen"]}, "turns": [{"id": "t_blast", "say": {"text": {"en": "Does any of it need blast freezing first?"}}, "kind": "ask", "field": "blast_freezing", "tries": 3, "way_out": "go_on"}]}, {"id": "a_chilled", "then": "rejoin", "when": {"options": ["chilled"]}, "turns": []}, {"id": "a_ambient", "then": {"go_to": "not_cold"}, "when": {"options": ["ambient"]}, "turns": []}], "kind": "ask", "field": "temperature", "tries": 3, "way_out": "go_on"}, {"id": "t_pallets", "say": {"text": {"en": "Roughly how many pallets at your busiest?"}}, "why": {"en": "It tells us which depot has room."}, "arms": [{"id": "a_tiny", "then": {"go_to": "small"}, "when": {"holds": {"compare": {"is": "less_than", "to": "5", "what": "pallets"}}}, "label": "Under 5 pallets", "turns": []}], "kind": "ask", "field": "pallets", "short": {"en": "How many pallets, roughly?"}, "tries": 3, "way_out": {"go_to": "who"}, "messages": [{"on": "type", "say": [{"en": "Just a number is fine, for example 120."}, {"en": "A rough guess is enough: 50? 200?"}]}]}, {"id": "t_estimate", "kind": "work_out", "fills": [{"field": "weekly_estimate", "formula": "MONEY(pallets * IF(temperature = \"frozen\", 4.10, 3.35))"}]}, {"id": "t_big", "arms": [{"id": "a_big", "then": {"go_to": "who"}, "when": {"holds": {"all": [{"compare": {"is": "at_least", "to": "200", "what": "pallets"}}, {"compare": {"is": "is", "to": "frozen", "what": "temperature"}}]}}, "label": "Big frozen load", "turns": [{"id": "t_bigline", "say": [{"line": {"text": {"en": "That is a load our depot leads look after in person."}}}], "kind": "tell"}]}, {"id": "a_usual", "then": "rejoin", "when": "otherwise", "turns": []}], "kind": "fork"}]}, {"id": "timing", "then": "carry_on", "title": "Timing", "turns": [{"id": "t_price", "say": [{"line": {"text": {"en": "For {pallets|that many pallets} we would expect about {weekly_estimate|a few hundred pounds} a week, handling included."}}}], "kind": "tell"}, {"id": "t_start", "say": {"text": {"en": "When would the first pallets arrive?"}}, "kind": "ask", "skip": {"en": "I don’t know yet"}, "field": "start", "tries": 3, "way_out": "go_on"}]}, {"id": "who", "then": "carry_on", "title": "Who to call", "turns": [{"id": "t_role", "say": {"text": {"en": "What is your part in the decision?"}}, "why": {"en": "So that we call the right person once."}, "kind": "ask", "skip": {"en": "Rather not say"}, "field": "role", "tries": 3, "way_out": "go_on"}, {"id": "t_name", "say": {"text": {"en": "Who should we ask for?"}}, "why": {"en": "So that we ask for the right person."}, "kind": "ask", "field": "name", "tries": 3, "way_out": "go_on"}, {"id": "t_company", "say": {"text": {"en": "And the company?"}}, "kind": "ask", "field": "company", "tries": 3, "way_out": "go_on"}, {"id": "t_email", "say": {"text": {"en": "Which address at {company|your company} should we send the estimate to?"}}, "why": {"en": "The estimate goes there; nothing else does."}, "kind": "ask", "field": "email", "tries": 3, "way_out": "go_on"}, {"id": "t_phone", "say": {"text": {"en": "And a number to reach you on?"}}, "why": {"en": "A person calls you once, in working hours."}, "kind": "ask", "skip": {"en": "E-mail is enough"}, "field": "phone", "tries": 3, "way_out": "go_on"}, {"id": "t_file", "arms": [{"id": "a_out", "then": {"go_to": "not_cold"}, "when": "ruled_out", "turns": []}, {"id": "a_hot", "then": "rejoin", "when": {"band": ["hot"]}, "turns": [{"id": "t_hotline", "say": [{"line": {"text": {"en": "Thank you, {name.given|and welcome}. Somebody from the depot calls you today."}}}], "kind": "tell"}]}, {"id": "a_warm", "then": "rejoin", "when": {"band": ["warm"]}, "turns": [{"id": "t_warmline", "say": [{"line": {"text": {"en": "Thank you, {name.given|and welcome}. We call you within two working days."}}}], "kind": "tell"}]}, {"id": "a_nurture", "then": "rejoin", "when": "otherwise", "turns": [{"id": "t_nurtureline", "say": [{"line": {"text": {"en": "Thank you, {name.given|and welcome}. We send you our rates and a guide to packing for the cold."}}}], "kind": "tell"}]}], "kind": "file_lead"}, {"id": "t_end_lead", "say": {"text": {"en": "Have a good day."}}, "kind": "close", "outcome": "lead"}]}, {"id": "small", "then": "carry_on", "title": "Small loads", "turns": [{"id": "t_small", "say": [{"line": {"text": {"en": "Our smallest bay holds 5 pallets. For fewer, the growers’ co-op shares a cold room by the shelf."}}}, {"link": {"url": "https://shelves.winterlode.example/", "label": {"en": "See the shared cold room"}}}], "kind": "tell"}, {"id": "t_end_small", "say": {"text": {"en": "Thank you for asking."}}, "kind": "close", "outcome": "not_a_fit"}]}, {"id": "not_cold", "then": "carry_on", "title": "Not cold", "turns": [{"id": "t_end_notcold", "say": {"text": {"en": "We only store chilled and frozen goods, so we cannot help with this one. Thank you for asking."}}, "kind": "close", "outcome": "not_a_fit"}]}, {"id": "customers", "then": "carry_on", "title": "Customers", "turns": [{"id": "t_end_customer", "say": {"text": {"en": "Your depot’s desk knows your pallets best, and answers within the hour."}}, "kind": "close", "link": {"url": "https://desk.winterlode.example/", "label": {"en": "Open the customer desk"}}, "outcome": "customer"}]}, {"id": "looking", "then": "carry_on", "title": "Just looking", "turns": [{"id": "t_end_looking", "say": {"text": {"en": "Look around as long as you like. Come back when there is something to keep cold."}}, "kind": "close", "link": {"url": "https://www.winterlode.example/depots", "label": {"en": "How our depots work"}}, "outcome": "looking"}]}], "settings": {"pace": "by_length", "country": "GB", "currency": "GBP", "time_zone": "Europe/London", "extras_per_ask": 6, "entries_per_section": 25}, "scorecards": [{"id": "fit", "bands": [{"id": "nurture", "label": "Nurture"}, {"id": "warm", "from": 40, "label": "Warm"}, {"id": "hot", "from": 70, "label": "Hot"}], "title": "Fit", "rule_outs": [{"id": "r_ambient", "holds": {"compare": {"is": "is", "to": "ambient", "what": "temperature"}}, "reason": {"en": "We only do cold."}}, {"id": "r_tiny", "holds": {"compare": {"is": "less_than", "to": "5", "what": "pallets"}}, "reason": {"en": "The smallest bay is 5 pallets."}}], "dimensions": [{"id": "need", "title": "Need", "ceiling": 45, "criteria": [{"id": "c_frozen", "gives": {"when": {"holds": {"compare": {"is": "is", "to": "frozen", "what": "temperature"}}, "points": 15}}}, {"id": "c_blast", "gives": {"when": {"holds": {"compare": {"is": "is", "to": "yes", "what": "blast_freezing"}}, "points": 12}}}, {"id": "c_pallets", "gives": {"table": {"rows": [{"from": "50", "below": "200", "points": 10}, {"from": "200", "points": 25}], "field": "pallets"}}, "label": "Pallets"}]}, {"id": "authority", "floor": -10, "title": "Authority", "ceiling": 25, "criteria": [{"id": "c_owner", "gives": {"when": {"holds": {"compare": {"is": "is", "to": "owner", "what": "role"}}, "points": 25}}}, {"id": "c_quotes", "gives": {"when": {"holds": {"compare": {"is": "is", "to": "quotes", "what": "role"}}, "points": -10}}}]}, {"id": "timing", "title": "Timing", "ceiling": 25, "criteria": [{"id": "c_soon", "gives": {"when": {"holds": {"compare": {"is": "is", "to": "soon", "what": "start"}}, "points": 25}}}, {"id": "c_half", "gives": {"when": {"holds": {"compare": {"is": "is", "to": "half_year", "what": "start"}}, "points": 10}}}]}], "must_haves": [{"id": "m_company", "cap": "warm", "holds": {"compare": {"is": "is_known", "what": "email"}}, "label": "Email is a company address"}]}]}', '01a2212f-e9a3-76a3-8cbc-8b4bd3d6b72e', '2026-11-28 08:05:17.948121+00');
INSERT INTO public.releases VALUES ('01a2212f-ea47-758a-bd74-c7e4eb34e348', '01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', '01a2212f-ea42-70b3-98a3-0c49c056e7db', 1, 'First release: asked in one sentence, read back.', '{"id": "callback", "brief": {"fit": "Anybody with food to keep cold.", "needs": [["temperature"], ["email", "phone"]], "taker": "The Aldermoor queue."}, "title": "Call back", "fields": [{"id": "fld_temperature", "key": "temperature", "type": "choice", "label": "Temperature", "rules": [{"rule": "required"}], "record": "lead", "options": [{"key": "frozen", "also": ["minus 18", "deep freeze", "freezer", "-18"], "hint": {"en": "−18 °C or below"}, "label": {"en": "Frozen"}}, {"key": "chilled", "also": ["fridge", "plus 4", "cool"], "hint": {"en": "+2 to +5 °C"}, "label": {"en": "Chilled"}}, {"key": "ambient", "also": ["ambient", "dry", "room temperature", "dry goods"], "hint": {"en": "dry goods, room temperature"}, "label": {"en": "Not chilled"}}]}, {"id": "f_stock", "key": "stock", "type": "quantity", "unit": "pallets", "label": "Stock", "rules": [{"max": "20000", "min": "1", "rule": "range"}], "record": "lead"}, {"id": "f_start_date", "key": "start_date", "type": "date", "label": "Start date", "rules": [{"rule": "not_past"}], "record": "lead"}, {"id": "f_services", "key": "services", "type": "choices", "label": "Services", "rules": [{"n": 2, "rule": "at_most"}], "record": "lead", "options": [{"key": "blast", "also": ["blast"], "label": {"en": "Blast freezing"}}, {"key": "haulage", "also": ["haulage", "transport", "delivery"], "label": {"en": "Chilled haulage"}}, {"key": "picking", "also": ["picking", "packing"], "label": {"en": "Picking and packing"}}]}, {"id": "f_urgency", "key": "urgency", "type": "scale", "label": "Urgency", "record": "lead", "options": [{"key": "1", "label": {"en": "1, no hurry"}}, {"key": "2", "label": {"en": "2"}}, {"key": "3", "label": {"en": "3"}}, {"key": "4", "label": {"en": "4"}}, {"key": "5", "label": {"en": "5, this week"}}]}, {"id": "fld_name", "key": "name", "type": "person_name", "label": "Name", "rules": [{"rule": "full_name"}], "record": "contact", "personal": true}, {"id": "fld_company", "key": "company", "type": "company", "label": "Company", "record": "company"}, {"id": "fld_email", "key": "email", "type": "email", "label": "Email", "rules": [{"rule": "company_address"}], "record": "contact", "personal": true}, {"id": "fld_phone", "key": "phone", "type": "phone", "label": "Phone", "record": "contact", "personal": true}, {"id": "f_consent", "key": "may_write", "type": "consent", "label": "May write", "record": "contact"}], "format": "lumbo.dialogue/1", "offers": [{"id": "guide", "say": [{"line": {"text": {"en": "Our one-page guide to cold storage may help while you think."}}}], "when": {"every": 2}}], "opening": {"say": {"en": "Tell us in a sentence or two what you need to keep cold. Somebody who knows calls you back."}, "button": {"en": "Tell us"}}, "routing": {"otherwise": "aldermoor"}, "language": "en", "outcomes": [{"id": "lead", "class": "lead", "label": "A lead"}, {"id": "looking", "class": "looking", "label": "Just looking"}], "sections": [{"id": "need", "then": "carry_on", "title": "What they need", "turns": [{"id": "t_need", "say": {"text": {"en": "What do you need? How much, frozen or chilled, and from when?"}}, "kind": "open_ask", "fields": ["temperature", "stock", "start_date"], "missing": "one_by_one"}, {"id": "t_temp", "say": {"text": {"en": "Frozen or chilled?"}}, "why": {"en": "Each has halls of its own."}, "kind": "ask", "field": "temperature", "short": {"en": "Frozen, or chilled?"}, "tries": 3, "way_out": "go_on"}, {"id": "t_stock", "say": {"text": {"en": "Roughly how many pallets?"}}, "why": {"en": "It tells us which depot has room."}, "kind": "ask", "skip": {"en": "I don’t know yet"}, "field": "stock", "short": {"en": "How many pallets, roughly?"}, "tries": 3, "way_out": "go_on"}, {"id": "t_start", "say": {"text": {"en": "When would you start?"}}, "why": {"en": "So that we can keep the room free."}, "kind": "ask", "skip": {"en": "Not decided"}, "field": "start_date", "tries": 3, "way_out": "go_on"}, {"id": "t_services", "say": {"text": {"en": "Anything else we can do? Two at most."}}, "kind": "ask", "skip": {"en": "Nothing else"}, "field": "services", "tries": 3, "way_out": "go_on"}, {"id": "t_urgency", "say": {"text": {"en": "How soon should we call, from 1 to 5?"}}, "kind": "ask", "skip": {"en": "It doesn’t matter"}, "field": "urgency", "tries": 3, "way_out": "go_on"}]}, {"id": "who", "then": {"close": {"outcome": "lead"}}, "title": "Who to call", "turns": [{"id": "t_consent", "say": {"text": {"en": "May we write to you about this? We use your details for this enquiry only."}}, "why": {"en": "We ask before we keep anything about you."}, "kind": "ask", "field": "may_write", "tries": 3, "way_out": "go_on"}, {"id": "t_who", "say": {"text": {"en": "Who shall we ask for?"}}, "kind": "ask_together", "tries": 3, "fields": [{"field": "name", "rules": [{"rule": "required"}]}, {"field": "company"}, {"field": "email"}, {"field": "phone", "rules": [{"rule": "required"}]}], "way_out": "go_on"}, {"id": "t_back", "say": {"text": {"en": "Is this right?"}}, "kind": "read_back", "fields": ["temperature", "stock", "start_date", "name", "email", "phone"]}, {"id": "t_file", "kind": "file_lead"}, {"id": "t_done", "say": {"text": {"en": "Thank you, {name.given|we have it}. We will call you."}}, "kind": "close", "outcome": "lead"}]}, {"id": "look", "then": {"close": {"outcome": "looking"}}, "title": "Just looking", "turns": [{"id": "t_look", "say": [{"line": {"text": {"en": "Have a look round. We are here when you need us."}}}], "kind": "tell"}]}], "settings": {"pace": "by_length", "country": "GB", "currency": "GBP", "time_zone": "Europe/London", "nudge_seconds": 120, "extras_per_ask": 6, "entries_per_section": 25}, "side_talk": [{"id": "price", "does": {"answer": [{"line": {"text": {"en": "Frozen storage starts at £4.20 a pallet and week; the call gives you a firm price."}}}]}, "matches": "part", "phrases": {"en": ["how much does it cost", "what does it cost", "price", "prices"]}}, {"id": "where", "does": {"answer": [{"line": {"text": {"en": "In Aldermoor, Saltwick and Tarn Quay."}}}]}, "matches": "part", "phrases": {"en": ["where are you", "where are your depots", "which depots"]}}, {"id": "looking", "does": {"go_to": "look"}, "matches": "whole", "phrases": {"en": ["just looking", "only looking"]}}]}', '01a2212f-e9a3-76a3-8cbc-8b4bd3d6b72e', '2026-11-28 08:05:18.020944+00');


--
-- Data for Name: sessions; Type: TABLE DATA; Schema: public; Owner: -
--



--
-- Data for Name: timers; Type: TABLE DATA; Schema: public; Owner: -
--



--
-- Data for Name: visitor_keys; Type: TABLE DATA; Schema: public; Owner: -
--



--
-- Data for Name: visitor_tokens; Type: TABLE DATA; Schema: public; Owner: -
--



--
-- Data for Name: workspaces; Type: TABLE DATA; Schema: public; Owner: -
--

INSERT INTO public.workspaces VALUES ('01a2212f-e9a3-76a3-8cbc-8b4a6ab9dcc8', 'winterlode', 'Winterlode', '2026-11-28 08:05:17.85894+00', '{"deny": [], "allow": []}', 0);


--
-- Name: lead_log_id_seq; Type: SEQUENCE SET; Schema: public; Owner: -
--

SELECT pg_catalog.setval('public.lead_log_id_seq', 13, true);


--
-- Name: _sqlx_migrations _sqlx_migrations_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public._sqlx_migrations
    ADD CONSTRAINT _sqlx_migrations_pkey PRIMARY KEY (version);


--
-- Name: comments comments_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.comments
    ADD CONSTRAINT comments_pkey PRIMARY KEY (id);


--
-- Name: comments comments_workspace_id_id_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.comments
    ADD CONSTRAINT comments_workspace_id_id_key UNIQUE (workspace_id, id);


--
-- Name: companies companies_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.companies
    ADD CONSTRAINT companies_pkey PRIMARY KEY (id);


--
-- Name: companies companies_workspace_id_id_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.companies
    ADD CONSTRAINT companies_workspace_id_id_key UNIQUE (workspace_id, id);


--
-- Name: contacts contacts_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.contacts
    ADD CONSTRAINT contacts_pkey PRIMARY KEY (id);


--
-- Name: contacts contacts_workspace_id_id_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.contacts
    ADD CONSTRAINT contacts_workspace_id_id_key UNIQUE (workspace_id, id);


--
-- Name: conversation_events conversation_events_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.conversation_events
    ADD CONSTRAINT conversation_events_pkey PRIMARY KEY (conversation_id, number);


--
-- Name: conversations conversations_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.conversations
    ADD CONSTRAINT conversations_pkey PRIMARY KEY (id);


--
-- Name: conversations conversations_token_hash_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.conversations
    ADD CONSTRAINT conversations_token_hash_key UNIQUE (token_hash);


--
-- Name: conversations conversations_workspace_id_id_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.conversations
    ADD CONSTRAINT conversations_workspace_id_id_key UNIQUE (workspace_id, id);


--
-- Name: dialogues dialogues_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.dialogues
    ADD CONSTRAINT dialogues_pkey PRIMARY KEY (id);


--
-- Name: dialogues dialogues_slug_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.dialogues
    ADD CONSTRAINT dialogues_slug_key UNIQUE (slug);


--
-- Name: dialogues dialogues_workspace_id_id_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.dialogues
    ADD CONSTRAINT dialogues_workspace_id_id_key UNIQUE (workspace_id, id);


--
-- Name: draft_edits draft_edits_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.draft_edits
    ADD CONSTRAINT draft_edits_pkey PRIMARY KEY (dialogue_id, revision);


--
-- Name: drafts drafts_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.drafts
    ADD CONSTRAINT drafts_pkey PRIMARY KEY (dialogue_id);


--
-- Name: fields fields_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.fields
    ADD CONSTRAINT fields_pkey PRIMARY KEY (workspace_id, id);


--
-- Name: fields fields_workspace_id_key_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.fields
    ADD CONSTRAINT fields_workspace_id_key_key UNIQUE (workspace_id, key);


--
-- Name: lead_log lead_log_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.lead_log
    ADD CONSTRAINT lead_log_pkey PRIMARY KEY (id);


--
-- Name: leads leads_conversation_id_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.leads
    ADD CONSTRAINT leads_conversation_id_key UNIQUE (conversation_id);


--
-- Name: leads leads_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.leads
    ADD CONSTRAINT leads_pkey PRIMARY KEY (id);


--
-- Name: leads leads_workspace_id_id_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.leads
    ADD CONSTRAINT leads_workspace_id_id_key UNIQUE (workspace_id, id);


--
-- Name: media media_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.media
    ADD CONSTRAINT media_pkey PRIMARY KEY (workspace_id, hash);


--
-- Name: outbox outbox_idempotency_key_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.outbox
    ADD CONSTRAINT outbox_idempotency_key_key UNIQUE (idempotency_key);


--
-- Name: outbox outbox_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.outbox
    ADD CONSTRAINT outbox_pkey PRIMARY KEY (id);


--
-- Name: people people_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.people
    ADD CONSTRAINT people_pkey PRIMARY KEY (id);


--
-- Name: people people_workspace_id_id_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.people
    ADD CONSTRAINT people_workspace_id_id_key UNIQUE (workspace_id, id);


--
-- Name: presence presence_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.presence
    ADD CONSTRAINT presence_pkey PRIMARY KEY (dialogue_id, person_id);


--
-- Name: queue_members queue_members_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.queue_members
    ADD CONSTRAINT queue_members_pkey PRIMARY KEY (queue_id, person_id);


--
-- Name: queues queues_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.queues
    ADD CONSTRAINT queues_pkey PRIMARY KEY (id);


--
-- Name: queues queues_workspace_id_id_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.queues
    ADD CONSTRAINT queues_workspace_id_id_key UNIQUE (workspace_id, id);


--
-- Name: queues queues_workspace_id_key_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.queues
    ADD CONSTRAINT queues_workspace_id_key_key UNIQUE (workspace_id, key);


--
-- Name: releases releases_dialogue_id_number_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.releases
    ADD CONSTRAINT releases_dialogue_id_number_key UNIQUE (dialogue_id, number);


--
-- Name: releases releases_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.releases
    ADD CONSTRAINT releases_pkey PRIMARY KEY (id);


--
-- Name: releases releases_workspace_id_id_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.releases
    ADD CONSTRAINT releases_workspace_id_id_key UNIQUE (workspace_id, id);


--
-- Name: sessions sessions_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.sessions
    ADD CONSTRAINT sessions_pkey PRIMARY KEY (id);


--
-- Name: timers timers_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.timers
    ADD CONSTRAINT timers_pkey PRIMARY KEY (id);


--
-- Name: visitor_keys visitor_keys_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.visitor_keys
    ADD CONSTRAINT visitor_keys_pkey PRIMARY KEY (workspace_id, id);


--
-- Name: visitor_tokens visitor_tokens_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.visitor_tokens
    ADD CONSTRAINT visitor_tokens_pkey PRIMARY KEY (workspace_id, hash);


--
-- Name: workspaces workspaces_pkey; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.workspaces
    ADD CONSTRAINT workspaces_pkey PRIMARY KEY (id);


--
-- Name: workspaces workspaces_slug_key; Type: CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.workspaces
    ADD CONSTRAINT workspaces_slug_key UNIQUE (slug);


--
-- Name: comments_dialogue; Type: INDEX; Schema: public; Owner: -
--

CREATE INDEX comments_dialogue ON public.comments USING btree (workspace_id, dialogue_id, made_at);


--
-- Name: companies_domain; Type: INDEX; Schema: public; Owner: -
--

CREATE UNIQUE INDEX companies_domain ON public.companies USING btree (workspace_id, domain) WHERE (domain IS NOT NULL);


--
-- Name: companies_name; Type: INDEX; Schema: public; Owner: -
--

CREATE UNIQUE INDEX companies_name ON public.companies USING btree (workspace_id, lower(name)) WHERE ((domain IS NULL) AND (name IS NOT NULL));


--
-- Name: contacts_email; Type: INDEX; Schema: public; Owner: -
--

CREATE UNIQUE INDEX contacts_email ON public.contacts USING btree (workspace_id, lower(email)) WHERE (email IS NOT NULL);


--
-- Name: conversations_idle; Type: INDEX; Schema: public; Owner: -
--

CREATE INDEX conversations_idle ON public.conversations USING btree (idle_at) WHERE ((outcome IS NULL) AND (idle_at IS NOT NULL));


--
-- Name: conversations_release; Type: INDEX; Schema: public; Owner: -
--

CREATE INDEX conversations_release ON public.conversations USING btree (workspace_id, release_id);


--
-- Name: lead_log_lead; Type: INDEX; Schema: public; Owner: -
--

CREATE INDEX lead_log_lead ON public.lead_log USING btree (workspace_id, lead_id, id);


--
-- Name: leads_owner; Type: INDEX; Schema: public; Owner: -
--

CREATE INDEX leads_owner ON public.leads USING btree (workspace_id, owner_id, status);


--
-- Name: leads_queue; Type: INDEX; Schema: public; Owner: -
--

CREATE INDEX leads_queue ON public.leads USING btree (workspace_id, queue_id, status);


--
-- Name: outbox_next; Type: INDEX; Schema: public; Owner: -
--

CREATE INDEX outbox_next ON public.outbox USING btree (next_at) WHERE (done_at IS NULL);


--
-- Name: people_email; Type: INDEX; Schema: public; Owner: -
--

CREATE UNIQUE INDEX people_email ON public.people USING btree (lower(email));


--
-- Name: sessions_expiry; Type: INDEX; Schema: public; Owner: -
--

CREATE INDEX sessions_expiry ON public.sessions USING btree (expires_at);


--
-- Name: timers_due; Type: INDEX; Schema: public; Owner: -
--

CREATE INDEX timers_due ON public.timers USING btree (due_at) WHERE (done_at IS NULL);


--
-- Name: visitor_tokens_expiry; Type: INDEX; Schema: public; Owner: -
--

CREATE INDEX visitor_tokens_expiry ON public.visitor_tokens USING btree (expires_at);


--
-- Name: conversation_events events_only_added; Type: TRIGGER; Schema: public; Owner: -
--

CREATE TRIGGER events_only_added BEFORE DELETE OR UPDATE ON public.conversation_events FOR EACH ROW EXECUTE FUNCTION public.refuse_event_change();


--
-- Name: comments comments_workspace_id_dialogue_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.comments
    ADD CONSTRAINT comments_workspace_id_dialogue_id_fkey FOREIGN KEY (workspace_id, dialogue_id) REFERENCES public.dialogues(workspace_id, id);


--
-- Name: comments comments_workspace_id_person_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.comments
    ADD CONSTRAINT comments_workspace_id_person_id_fkey FOREIGN KEY (workspace_id, person_id) REFERENCES public.people(workspace_id, id);


--
-- Name: comments comments_workspace_id_resolved_by_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.comments
    ADD CONSTRAINT comments_workspace_id_resolved_by_fkey FOREIGN KEY (workspace_id, resolved_by) REFERENCES public.people(workspace_id, id);


--
-- Name: companies companies_workspace_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.companies
    ADD CONSTRAINT companies_workspace_id_fkey FOREIGN KEY (workspace_id) REFERENCES public.workspaces(id);


--
-- Name: contacts contacts_workspace_id_company_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.contacts
    ADD CONSTRAINT contacts_workspace_id_company_id_fkey FOREIGN KEY (workspace_id, company_id) REFERENCES public.companies(workspace_id, id);


--
-- Name: contacts contacts_workspace_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.contacts
    ADD CONSTRAINT contacts_workspace_id_fkey FOREIGN KEY (workspace_id) REFERENCES public.workspaces(id);


--
-- Name: conversation_events conversation_events_workspace_id_conversation_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.conversation_events
    ADD CONSTRAINT conversation_events_workspace_id_conversation_id_fkey FOREIGN KEY (workspace_id, conversation_id) REFERENCES public.conversations(workspace_id, id);


--
-- Name: conversations conversations_workspace_id_dialogue_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.conversations
    ADD CONSTRAINT conversations_workspace_id_dialogue_id_fkey FOREIGN KEY (workspace_id, dialogue_id) REFERENCES public.dialogues(workspace_id, id);


--
-- Name: conversations conversations_workspace_id_release_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.conversations
    ADD CONSTRAINT conversations_workspace_id_release_id_fkey FOREIGN KEY (workspace_id, release_id) REFERENCES public.releases(workspace_id, id);


--
-- Name: dialogues dialogues_workspace_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.dialogues
    ADD CONSTRAINT dialogues_workspace_id_fkey FOREIGN KEY (workspace_id) REFERENCES public.workspaces(id);


--
-- Name: dialogues dialogues_workspace_id_on_air_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.dialogues
    ADD CONSTRAINT dialogues_workspace_id_on_air_fkey FOREIGN KEY (workspace_id, on_air) REFERENCES public.releases(workspace_id, id);


--
-- Name: draft_edits draft_edits_workspace_id_dialogue_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.draft_edits
    ADD CONSTRAINT draft_edits_workspace_id_dialogue_id_fkey FOREIGN KEY (workspace_id, dialogue_id) REFERENCES public.dialogues(workspace_id, id);


--
-- Name: drafts drafts_workspace_id_dialogue_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.drafts
    ADD CONSTRAINT drafts_workspace_id_dialogue_id_fkey FOREIGN KEY (workspace_id, dialogue_id) REFERENCES public.dialogues(workspace_id, id);


--
-- Name: fields fields_workspace_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.fields
    ADD CONSTRAINT fields_workspace_id_fkey FOREIGN KEY (workspace_id) REFERENCES public.workspaces(id);


--
-- Name: lead_log lead_log_workspace_id_lead_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.lead_log
    ADD CONSTRAINT lead_log_workspace_id_lead_id_fkey FOREIGN KEY (workspace_id, lead_id) REFERENCES public.leads(workspace_id, id);


--
-- Name: leads leads_workspace_id_company_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.leads
    ADD CONSTRAINT leads_workspace_id_company_id_fkey FOREIGN KEY (workspace_id, company_id) REFERENCES public.companies(workspace_id, id);


--
-- Name: leads leads_workspace_id_contact_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.leads
    ADD CONSTRAINT leads_workspace_id_contact_id_fkey FOREIGN KEY (workspace_id, contact_id) REFERENCES public.contacts(workspace_id, id);


--
-- Name: leads leads_workspace_id_conversation_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.leads
    ADD CONSTRAINT leads_workspace_id_conversation_id_fkey FOREIGN KEY (workspace_id, conversation_id) REFERENCES public.conversations(workspace_id, id);


--
-- Name: leads leads_workspace_id_dialogue_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.leads
    ADD CONSTRAINT leads_workspace_id_dialogue_id_fkey FOREIGN KEY (workspace_id, dialogue_id) REFERENCES public.dialogues(workspace_id, id);


--
-- Name: leads leads_workspace_id_owner_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.leads
    ADD CONSTRAINT leads_workspace_id_owner_id_fkey FOREIGN KEY (workspace_id, owner_id) REFERENCES public.people(workspace_id, id);


--
-- Name: leads leads_workspace_id_queue_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.leads
    ADD CONSTRAINT leads_workspace_id_queue_id_fkey FOREIGN KEY (workspace_id, queue_id) REFERENCES public.queues(workspace_id, id);


--
-- Name: leads leads_workspace_id_release_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.leads
    ADD CONSTRAINT leads_workspace_id_release_id_fkey FOREIGN KEY (workspace_id, release_id) REFERENCES public.releases(workspace_id, id);


--
-- Name: media media_workspace_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.media
    ADD CONSTRAINT media_workspace_id_fkey FOREIGN KEY (workspace_id) REFERENCES public.workspaces(id);


--
-- Name: media media_workspace_id_made_by_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.media
    ADD CONSTRAINT media_workspace_id_made_by_fkey FOREIGN KEY (workspace_id, made_by) REFERENCES public.people(workspace_id, id);


--
-- Name: outbox outbox_workspace_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.outbox
    ADD CONSTRAINT outbox_workspace_id_fkey FOREIGN KEY (workspace_id) REFERENCES public.workspaces(id);


--
-- Name: people people_workspace_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.people
    ADD CONSTRAINT people_workspace_id_fkey FOREIGN KEY (workspace_id) REFERENCES public.workspaces(id);


--
-- Name: presence presence_workspace_id_dialogue_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.presence
    ADD CONSTRAINT presence_workspace_id_dialogue_id_fkey FOREIGN KEY (workspace_id, dialogue_id) REFERENCES public.dialogues(workspace_id, id);


--
-- Name: presence presence_workspace_id_person_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.presence
    ADD CONSTRAINT presence_workspace_id_person_id_fkey FOREIGN KEY (workspace_id, person_id) REFERENCES public.people(workspace_id, id);


--
-- Name: queue_members queue_members_workspace_id_person_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.queue_members
    ADD CONSTRAINT queue_members_workspace_id_person_id_fkey FOREIGN KEY (workspace_id, person_id) REFERENCES public.people(workspace_id, id);


--
-- Name: queue_members queue_members_workspace_id_queue_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.queue_members
    ADD CONSTRAINT queue_members_workspace_id_queue_id_fkey FOREIGN KEY (workspace_id, queue_id) REFERENCES public.queues(workspace_id, id);


--
-- Name: queues queues_workspace_id_fixed_owner_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.queues
    ADD CONSTRAINT queues_workspace_id_fixed_owner_fkey FOREIGN KEY (workspace_id, fixed_owner) REFERENCES public.people(workspace_id, id);


--
-- Name: queues queues_workspace_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.queues
    ADD CONSTRAINT queues_workspace_id_fkey FOREIGN KEY (workspace_id) REFERENCES public.workspaces(id);


--
-- Name: releases releases_workspace_id_dialogue_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.releases
    ADD CONSTRAINT releases_workspace_id_dialogue_id_fkey FOREIGN KEY (workspace_id, dialogue_id) REFERENCES public.dialogues(workspace_id, id);


--
-- Name: timers timers_workspace_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.timers
    ADD CONSTRAINT timers_workspace_id_fkey FOREIGN KEY (workspace_id) REFERENCES public.workspaces(id);


--
-- Name: visitor_keys visitor_keys_workspace_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.visitor_keys
    ADD CONSTRAINT visitor_keys_workspace_id_fkey FOREIGN KEY (workspace_id) REFERENCES public.workspaces(id);


--
-- Name: visitor_keys visitor_keys_workspace_id_made_by_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.visitor_keys
    ADD CONSTRAINT visitor_keys_workspace_id_made_by_fkey FOREIGN KEY (workspace_id, made_by) REFERENCES public.people(workspace_id, id);


--
-- Name: visitor_tokens visitor_tokens_workspace_id_fkey; Type: FK CONSTRAINT; Schema: public; Owner: -
--

ALTER TABLE ONLY public.visitor_tokens
    ADD CONSTRAINT visitor_tokens_workspace_id_fkey FOREIGN KEY (workspace_id) REFERENCES public.workspaces(id);


--
-- PostgreSQL database dump complete
--


