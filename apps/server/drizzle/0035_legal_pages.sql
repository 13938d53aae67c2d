-- Terms have become one of the legal pages.
UPDATE shop SET settings = json_remove(json_set(settings, '$.legal', json_object('terms', json_extract(settings, '$.terms'))), '$.terms')
WHERE trim(coalesce(json_extract(settings, '$.terms'), '')) <> '';
--> statement-breakpoint
UPDATE shop SET settings = json_remove(settings, '$.terms');
