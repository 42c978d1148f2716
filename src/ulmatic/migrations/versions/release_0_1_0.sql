-- The tables of release 0.1.0, and the one row that stands in a new database.
CREATE TABLE attempts (
    id bigint NOT NULL,
    key character varying NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL
);
CREATE SEQUENCE attempts_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE attempts_id_seq OWNED BY attempts.id;
CREATE TABLE book_entries (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    site_id uuid NOT NULL,
    ordinal bigint NOT NULL,
    kind character varying NOT NULL,
    pile_id uuid NOT NULL,
    delivery_id uuid,
    plot_id uuid,
    to_pile_id uuid,
    volume_m3 double precision NOT NULL,
    "on" date NOT NULL,
    by character varying NOT NULL,
    note character varying NOT NULL,
    created_at timestamp with time zone NOT NULL,
    deleted_at timestamp with time zone
);
ALTER TABLE book_entries ALTER COLUMN ordinal ADD GENERATED ALWAYS AS IDENTITY ( SEQUENCE NAME book_entries_ordinal_seq START WITH 1 INCREMENT BY 1 NO MINVALUE NO MAXVALUE CACHE 1 );
CREATE TABLE deliveries (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    site_id uuid NOT NULL,
    supplier_id uuid,
    offer_id uuid,
    name character varying NOT NULL,
    state character varying NOT NULL,
    material character varying NOT NULL,
    promised jsonb NOT NULL,
    expected_on date,
    received_on date,
    chipped_on date,
    measured jsonb,
    volume_m3 double precision,
    cost double precision NOT NULL,
    currency character varying NOT NULL,
    note character varying NOT NULL,
    typed jsonb NOT NULL,
    deleted_at timestamp with time zone,
    version integer NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL,
    worries jsonb DEFAULT '[]'::jsonb NOT NULL,
    photo_id uuid
);
CREATE TABLE errands (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    kind character varying NOT NULL,
    user_id uuid NOT NULL,
    subject jsonb NOT NULL,
    state character varying NOT NULL,
    done integer NOT NULL,
    of integer NOT NULL,
    problem jsonb,
    result jsonb,
    content bytea,
    created_at timestamp with time zone NOT NULL,
    started_at timestamp with time zone,
    deleted_at timestamp with time zone
);
CREATE TABLE invitations (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    token_hash bytea NOT NULL,
    role character varying NOT NULL,
    expires_at timestamp with time zone NOT NULL
);
CREATE TABLE landmarks (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    site_id uuid NOT NULL,
    name character varying NOT NULL,
    landmark jsonb NOT NULL,
    typed jsonb NOT NULL,
    deleted_at timestamp with time zone,
    version integer NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL
);
CREATE TABLE ledger_entries (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    site_id uuid NOT NULL,
    deleted_at timestamp with time zone,
    plot_id uuid,
    "on" date NOT NULL,
    entry jsonb NOT NULL,
    typed jsonb NOT NULL,
    by character varying NOT NULL,
    version integer NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL,
    pile_id uuid,
    trees jsonb,
    note character varying DEFAULT ''::character varying NOT NULL,
    photos jsonb DEFAULT '[]'::jsonb NOT NULL,
    corrects uuid
);
CREATE TABLE letters (
    id uuid NOT NULL,
    purpose character varying NOT NULL,
    "to" character varying NOT NULL,
    user_id uuid,
    workspace_id uuid,
    invitation_id uuid,
    tries integer NOT NULL,
    due_at timestamp with time zone NOT NULL
);
CREATE TABLE links (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    site_id uuid NOT NULL,
    kind character varying NOT NULL,
    user_id uuid NOT NULL,
    token_hash bytea NOT NULL,
    expires_at timestamp with time zone NOT NULL,
    created_at timestamp with time zone NOT NULL,
    deleted_at timestamp with time zone
);
CREATE TABLE mailed_tokens (
    token_hash bytea NOT NULL,
    user_id uuid NOT NULL,
    purpose character varying NOT NULL,
    expires_at timestamp with time zone NOT NULL
);
CREATE TABLE materials (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    name character varying NOT NULL,
    material jsonb NOT NULL,
    entry jsonb NOT NULL,
    deleted_at timestamp with time zone,
    version integer NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL
);
CREATE TABLE memberships (
    workspace_id uuid NOT NULL,
    user_id uuid NOT NULL,
    role character varying NOT NULL
);
CREATE TABLE offers (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    reference character varying NOT NULL,
    state character varying NOT NULL,
    offer jsonb NOT NULL,
    heard_at timestamp with time zone NOT NULL,
    expires_at timestamp with time zone NOT NULL,
    site_id uuid,
    deleted_at timestamp with time zone,
    version integer NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL
);
CREATE TABLE photos (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    site_id uuid NOT NULL,
    hash character varying NOT NULL,
    width integer NOT NULL,
    height integer NOT NULL,
    size integer NOT NULL,
    drawn boolean DEFAULT false NOT NULL,
    location jsonb,
    by character varying NOT NULL,
    created_at timestamp with time zone NOT NULL,
    deleted_at timestamp with time zone
);
CREATE TABLE piles (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    site_id uuid NOT NULL,
    landmark_id uuid,
    name character varying NOT NULL,
    deleted_at timestamp with time zone,
    version integer NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL
);
CREATE TABLE plots (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    site_id uuid NOT NULL,
    ordinal integer NOT NULL,
    name character varying NOT NULL,
    use character varying NOT NULL,
    shape jsonb NOT NULL,
    wanted_mm double precision NOT NULL,
    typed jsonb NOT NULL,
    place jsonb,
    deleted_at timestamp with time zone,
    version integer NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL,
    cut_outs jsonb DEFAULT '[]'::jsonb NOT NULL,
    slope jsonb,
    found jsonb DEFAULT '{}'::jsonb NOT NULL,
    recipe jsonb DEFAULT '{}'::jsonb NOT NULL,
    priority integer DEFAULT 2 NOT NULL,
    rule jsonb,
    decisions jsonb DEFAULT '{}'::jsonb NOT NULL,
    surveyed_on date NOT NULL
);
CREATE TABLE quotes (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    site_id uuid NOT NULL,
    number integer NOT NULL,
    client character varying NOT NULL,
    words character varying NOT NULL,
    units character varying NOT NULL,
    quote jsonb NOT NULL,
    deleted_at timestamp with time zone,
    version integer NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL,
    accepted_at timestamp with time zone,
    accepted_by character varying
);
CREATE TABLE readiness (
    id integer NOT NULL,
    at timestamp with time zone NOT NULL
);
CREATE TABLE sign_ins (
    token_hash bytea NOT NULL,
    user_id uuid NOT NULL,
    expires_at timestamp with time zone NOT NULL,
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    device character varying DEFAULT ''::character varying NOT NULL,
    started_at timestamp with time zone DEFAULT now() NOT NULL,
    seen_at timestamp with time zone DEFAULT now() NOT NULL
);
CREATE TABLE site_lessons (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    site_id uuid NOT NULL,
    lessons jsonb NOT NULL,
    deleted_at timestamp with time zone
);
CREATE TABLE sites (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    name character varying NOT NULL,
    units character varying NOT NULL,
    spare double precision,
    load_m3 double precision NOT NULL,
    barrow_m3 double precision NOT NULL,
    north_deg double precision NOT NULL,
    typed jsonb NOT NULL,
    deleted_at timestamp with time zone,
    version integer NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL,
    location_deg jsonb,
    climate jsonb,
    practice jsonb DEFAULT '{}'::jsonb NOT NULL,
    material character varying,
    fire_district boolean DEFAULT false NOT NULL,
    load_least_m3 double precision,
    load_most_m3 double precision,
    buying jsonb DEFAULT '{}'::jsonb NOT NULL,
    seasons jsonb DEFAULT '{}'::jsonb NOT NULL,
    weather_heard_at timestamp with time zone,
    outlook jsonb DEFAULT '[]'::jsonb NOT NULL,
    time_zone character varying DEFAULT 'UTC'::character varying NOT NULL,
    chosen jsonb DEFAULT '[]'::jsonb NOT NULL,
    parameters jsonb DEFAULT '{}'::jsonb NOT NULL,
    tasks jsonb DEFAULT '[]'::jsonb NOT NULL
);
CREATE TABLE suppliers (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    name character varying NOT NULL,
    currency character varying NOT NULL,
    source jsonb NOT NULL,
    typed jsonb NOT NULL,
    deleted_at timestamp with time zone,
    version integer NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL
);
CREATE TABLE users (
    id uuid NOT NULL,
    email character varying NOT NULL,
    name character varying NOT NULL,
    password_hash character varying NOT NULL,
    units character varying,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    verified_at timestamp with time zone,
    demo_until timestamp with time zone,
    leaves_at timestamp with time zone
);
CREATE TABLE weather_days (
    workspace_id uuid NOT NULL,
    id uuid NOT NULL,
    site_id uuid NOT NULL,
    deleted_at timestamp with time zone,
    day date NOT NULL,
    tmax_c double precision NOT NULL,
    tmin_c double precision NOT NULL,
    rain_mm double precision NOT NULL,
    source character varying NOT NULL
);
CREATE TABLE workspaces (
    id uuid NOT NULL,
    name character varying NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    practice jsonb DEFAULT '{}'::jsonb NOT NULL,
    parameters jsonb DEFAULT '{}'::jsonb NOT NULL,
    leaves_at timestamp with time zone,
    crops jsonb DEFAULT '{}'::jsonb NOT NULL
);
ALTER TABLE ONLY attempts ALTER COLUMN id SET DEFAULT nextval('attempts_id_seq'::regclass);
ALTER TABLE ONLY attempts ADD CONSTRAINT pk_attempts PRIMARY KEY (id);
ALTER TABLE ONLY book_entries ADD CONSTRAINT pk_book_entries PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY deliveries ADD CONSTRAINT pk_deliveries PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY errands ADD CONSTRAINT pk_errands PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY invitations ADD CONSTRAINT pk_invitations PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY landmarks ADD CONSTRAINT pk_landmarks PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY letters ADD CONSTRAINT pk_letters PRIMARY KEY (id);
ALTER TABLE ONLY links ADD CONSTRAINT pk_links PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY mailed_tokens ADD CONSTRAINT pk_mailed_tokens PRIMARY KEY (token_hash);
ALTER TABLE ONLY materials ADD CONSTRAINT pk_materials PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY memberships ADD CONSTRAINT pk_memberships PRIMARY KEY (workspace_id, user_id);
ALTER TABLE ONLY offers ADD CONSTRAINT pk_offers PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY photos ADD CONSTRAINT pk_photos PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY piles ADD CONSTRAINT pk_piles PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY ledger_entries ADD CONSTRAINT pk_plot_events PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY plots ADD CONSTRAINT pk_plots PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY quotes ADD CONSTRAINT pk_quotes PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY readiness ADD CONSTRAINT pk_readiness PRIMARY KEY (id);
ALTER TABLE ONLY sign_ins ADD CONSTRAINT pk_sign_ins PRIMARY KEY (token_hash);
ALTER TABLE ONLY site_lessons ADD CONSTRAINT pk_site_lessons PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY sites ADD CONSTRAINT pk_sites PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY suppliers ADD CONSTRAINT pk_suppliers PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY users ADD CONSTRAINT pk_users PRIMARY KEY (id);
ALTER TABLE ONLY weather_days ADD CONSTRAINT pk_weather_days PRIMARY KEY (workspace_id, id);
ALTER TABLE ONLY workspaces ADD CONSTRAINT pk_workspaces PRIMARY KEY (id);
ALTER TABLE ONLY invitations ADD CONSTRAINT uq_invitations_token_hash UNIQUE (token_hash);
ALTER TABLE ONLY sign_ins ADD CONSTRAINT uq_sign_ins_id UNIQUE (id);
CREATE INDEX ix_attempts_at ON attempts USING btree (at);
CREATE INDEX ix_attempts_key_at ON attempts USING btree (key, at);
CREATE INDEX ix_book_entries_site ON book_entries USING btree (workspace_id, site_id, ordinal);
CREATE INDEX ix_deliveries_site ON deliveries USING btree (workspace_id, site_id);
CREATE INDEX ix_errands_state_created_at ON errands USING btree (state, created_at);
CREATE INDEX ix_landmarks_site ON landmarks USING btree (workspace_id, site_id);
CREATE INDEX ix_ledger_entries_site ON ledger_entries USING btree (workspace_id, site_id, plot_id);
CREATE INDEX ix_letters_due_at ON letters USING btree (due_at);
CREATE INDEX ix_letters_user_id ON letters USING btree (user_id);
CREATE INDEX ix_links_token_hash ON links USING btree (token_hash);
CREATE INDEX ix_mailed_tokens_expires_at ON mailed_tokens USING btree (expires_at);
CREATE INDEX ix_mailed_tokens_user_id ON mailed_tokens USING btree (user_id);
CREATE INDEX ix_memberships_user_id ON memberships USING btree (user_id);
CREATE INDEX ix_photos_hash ON photos USING btree (hash);
CREATE INDEX ix_photos_site ON photos USING btree (workspace_id, site_id);
CREATE INDEX ix_piles_site ON piles USING btree (workspace_id, site_id);
CREATE INDEX ix_plots_site ON plots USING btree (workspace_id, site_id, ordinal);
CREATE INDEX ix_quotes_site ON quotes USING btree (workspace_id, site_id);
CREATE INDEX ix_sign_ins_user_id ON sign_ins USING btree (user_id);
CREATE INDEX ix_users_demo_until ON users USING btree (demo_until);
CREATE INDEX ix_users_leaves_at ON users USING btree (leaves_at);
CREATE INDEX ix_workspaces_leaves_at ON workspaces USING btree (leaves_at);
CREATE UNIQUE INDEX uq_offers_reference ON offers USING btree (workspace_id, reference);
CREATE UNIQUE INDEX uq_users_email_lower ON users USING btree (lower((email)::text));
CREATE UNIQUE INDEX uq_weather_days_day ON weather_days USING btree (workspace_id, site_id, day);
ALTER TABLE ONLY book_entries ADD CONSTRAINT fk_book_entries_workspace_id FOREIGN KEY (workspace_id, site_id) REFERENCES sites(workspace_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY deliveries ADD CONSTRAINT fk_deliveries_workspace_id FOREIGN KEY (workspace_id, site_id) REFERENCES sites(workspace_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY errands ADD CONSTRAINT fk_errands_workspace_id FOREIGN KEY (workspace_id) REFERENCES workspaces(id) ON DELETE CASCADE;
ALTER TABLE ONLY invitations ADD CONSTRAINT fk_invitations_workspace_id FOREIGN KEY (workspace_id) REFERENCES workspaces(id) ON DELETE CASCADE;
ALTER TABLE ONLY landmarks ADD CONSTRAINT fk_landmarks_workspace_id FOREIGN KEY (workspace_id, site_id) REFERENCES sites(workspace_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY letters ADD CONSTRAINT fk_letters_user_id FOREIGN KEY (user_id) REFERENCES users(id) ON DELETE CASCADE;
ALTER TABLE ONLY links ADD CONSTRAINT fk_links_workspace_id_site_id FOREIGN KEY (workspace_id, site_id) REFERENCES sites(workspace_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY mailed_tokens ADD CONSTRAINT fk_mailed_tokens_user_id FOREIGN KEY (user_id) REFERENCES users(id) ON DELETE CASCADE;
ALTER TABLE ONLY materials ADD CONSTRAINT fk_materials_workspace_id FOREIGN KEY (workspace_id) REFERENCES workspaces(id) ON DELETE CASCADE;
ALTER TABLE ONLY memberships ADD CONSTRAINT fk_memberships_user_id FOREIGN KEY (user_id) REFERENCES users(id) ON DELETE CASCADE;
ALTER TABLE ONLY memberships ADD CONSTRAINT fk_memberships_workspace_id FOREIGN KEY (workspace_id) REFERENCES workspaces(id) ON DELETE CASCADE;
ALTER TABLE ONLY offers ADD CONSTRAINT fk_offers_workspace_id FOREIGN KEY (workspace_id) REFERENCES workspaces(id) ON DELETE CASCADE;
ALTER TABLE ONLY photos ADD CONSTRAINT fk_photos_workspace_id_site_id FOREIGN KEY (workspace_id, site_id) REFERENCES sites(workspace_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY piles ADD CONSTRAINT fk_piles_workspace_id FOREIGN KEY (workspace_id, site_id) REFERENCES sites(workspace_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY ledger_entries ADD CONSTRAINT fk_plot_events_workspace_id FOREIGN KEY (workspace_id, site_id) REFERENCES sites(workspace_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY plots ADD CONSTRAINT fk_plots_workspace_id_site_id FOREIGN KEY (workspace_id, site_id) REFERENCES sites(workspace_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY quotes ADD CONSTRAINT fk_quotes_workspace_id FOREIGN KEY (workspace_id, site_id) REFERENCES sites(workspace_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY sign_ins ADD CONSTRAINT fk_sign_ins_user_id FOREIGN KEY (user_id) REFERENCES users(id) ON DELETE CASCADE;
ALTER TABLE ONLY site_lessons ADD CONSTRAINT fk_site_lessons_workspace_id_site_id FOREIGN KEY (workspace_id, site_id) REFERENCES sites(workspace_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY sites ADD CONSTRAINT fk_sites_workspace_id FOREIGN KEY (workspace_id) REFERENCES workspaces(id) ON DELETE CASCADE;
ALTER TABLE ONLY suppliers ADD CONSTRAINT fk_suppliers_workspace_id FOREIGN KEY (workspace_id) REFERENCES workspaces(id) ON DELETE CASCADE;
ALTER TABLE ONLY weather_days ADD CONSTRAINT fk_weather_days_workspace_id FOREIGN KEY (workspace_id, site_id) REFERENCES sites(workspace_id, id) ON DELETE CASCADE;
INSERT INTO readiness (id, at) VALUES (1, now());
