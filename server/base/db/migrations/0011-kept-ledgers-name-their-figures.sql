-- the ledger of an erased ticket is kept as its page shows it: second figures were names put together of their parts
update ticket set final_ledger = (
  select jsonb_agg(
    (line - 'also')
    || jsonb_build_object(
      'old', (line->'old') || jsonb_build_object('derived', coalesce(line->'also'->'oldDerived', '0'), 'counting', null),
      'fates', '{"editedThere": 0, "pushedOut": 0, "undone": 0}'::jsonb || (line->'fates'),
      'new', '{"addedTo": 0, "altered": 0, "putBack": 0, "editedThere": 0, "leftBehind": 0, "absorbed": 0, "pushedOut": 0}'::jsonb
             || (line->'new')
             || jsonb_build_object('twins', coalesce(line->'also'->'twins', '0'), 'expected', line->'also'->'expected'),
      'toCarry', 0,
      'toChange', 0,
      'toInstall', coalesce(line->'also'->'toInstall', '0'),
      'changedWithLoss', coalesce(line->'also'->'changedWithLoss', '0'),
      'notYetChecked', coalesce(line->'also'->'notYetChecked', '0'),
      'agreesButInstall', coalesce((line->'also'->>'agreesBut')::int, 0) = 1,
      'also', (
        select coalesce(jsonb_agg(jsonb_build_object(
                 'code', case when name like '%.derived.%' then 'derived' when name like '%.sum.%' then 'sum'
                              when name like '%.groups' then 'groups' else 'shows' end,
                 'of', regexp_replace(name, '^.*\.', ''),
                 'side', case when name like 'new.%' then 'last' else split_part(name, '.', 1) end,
                 'n', n,
                 'opens', null)), '[]')
          from jsonb_each(line->'also') as figure (name, n)
         where name ~ '^(old|new|first|last)\.')
    ))
  from jsonb_array_elements(final_ledger) as line)
where final_ledger is not null;
