-- films stand among films, wherever they lie; the moving half of a photo stays with its photo
alter table file_piece drop constraint if exists part_piece_serial_kind_handle_fkey;
alter table file_piece drop constraint if exists file_piece_serial_kind_handle_fkey;
alter table file_piece add foreign key (serial, kind, handle) references file on delete cascade on update cascade;

with film as (
  update record
     set kind = 'videos',
         data = jsonb_build_object(
           'folder', data -> 'folder',
           'name', data -> 'files' -> 0 -> 'name',
           'type', data -> 'files' -> 0 -> 'type',
           'handle', data -> 'files' -> 0 -> 'handle',
           'size', data -> 'files' -> 0 -> 'size',
           'atMs', data -> 'takenMs',
           'changedMs', data -> 'changedMs',
           'place', data -> 'place',
           'albums', data -> 'albums',
           'says', case when (data ->> 'favourite')::boolean then '{"favourite": "yes"}'::jsonb else '{}' end
                || case when (data ->> 'hidden')::boolean then '{"hidden": "yes"}'::jsonb else '{}' end,
           'cloud', data -> 'cloud',
           'placed', false)
   where kind = 'photos' and jsonb_array_length(data -> 'files') = 1 and data -> 'files' -> 0 ->> 'type' like 'video/%'
  returning serial, id
)
update file set kind = 'videos' from film where file.serial = film.serial and file.record_id = film.id and file.kind = 'photos';
