-- What a house writes and draws: one set of rules for the whole Desk.
create table house (
  only boolean primary key default true check (only),
  rules json not null,
  by text not null,
  at timestamptz not null default clock_timestamp()
);
