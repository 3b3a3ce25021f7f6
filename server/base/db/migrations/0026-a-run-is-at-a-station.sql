-- which bench a run's phones are at: the worker of that one takes it; null where nobody knows
alter table run add column station text;
