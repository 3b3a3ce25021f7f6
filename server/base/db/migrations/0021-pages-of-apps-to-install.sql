-- what a customer installs by hand, as a page of our own: sealed under the code on the sheet, which nobody keeps
create table install_page (
  code_hash bytea primary key,
  sealed bytea not null,
  ends_at timestamptz not null
);
create index install_page_ends on install_page (ends_at);
