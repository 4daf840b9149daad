-- Jobs that never come to an end were ended by whatever went wrong once; they go on.
UPDATE `jobs` SET `state` = 'running', `words` = NULL, `ended_at` = NULL, `due_at` = NOW(3) WHERE `kind` IN ('feed', 'pairing') AND `state` = 'failed';
