-- What a house writes and draws: one set of rules for the whole Desk.
create table house (
  is_it boolean primary key default true check (is_it),
  rules json not null,
  by text not null,
  at timestamptz not null default clock_timestamp()
);
