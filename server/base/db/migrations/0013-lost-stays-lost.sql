-- taking away what reads otherwise than an item was written does not undo the item: it is lost as before
delete from fate_step where from_fate = 'lost' and event = 'takenAway';
-- one of equal items that was there already was edited: what is there is another's now
insert into fate_step (from_fate, event, to_fate) values
  ('carried', 'heldByTheirs', 'alreadyThere'), ('changed', 'heldByTheirs', 'alreadyThere');
