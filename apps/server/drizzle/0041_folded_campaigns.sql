-- Campaigns and sources are told apart without spaces around them and in small letters: what was written before, too.
UPDATE `visitors` SET `first_campaign` = folded_campaign(`first_campaign`) WHERE `first_campaign` IS NOT folded_campaign(`first_campaign`);
--> statement-breakpoint
UPDATE `visitors` SET `last_campaign` = folded_campaign(`last_campaign`) WHERE `last_campaign` IS NOT folded_campaign(`last_campaign`);
--> statement-breakpoint
UPDATE `events` SET `campaign` = folded_campaign(`campaign`), `first_campaign` = folded_campaign(`first_campaign`)
  WHERE `campaign` IS NOT folded_campaign(`campaign`) OR `first_campaign` IS NOT folded_campaign(`first_campaign`);
--> statement-breakpoint
UPDATE `orders` SET `campaign` = folded_campaign(`campaign`) WHERE `campaign` IS NOT folded_campaign(`campaign`);
--> statement-breakpoint
UPDATE `contacts` SET `campaign` = folded_campaign(`campaign`) WHERE `campaign` IS NOT folded_campaign(`campaign`);
--> statement-breakpoint
UPDATE `place_visitors` SET `source` = folded(`source`), `campaign` = folded(`campaign`) WHERE `source` IS NOT folded(`source`) OR `campaign` IS NOT folded(`campaign`);
--> statement-breakpoint
CREATE TEMP TABLE `folded_days` AS
  SELECT `generation`, `place_id`, `day`, `device`, folded(`source`) AS `source`, folded(`campaign`) AS `campaign`, sum(`came`) AS `came`, sum(`reached`) AS `reached`, sum(`leads`) AS `leads`
  FROM `place_days` GROUP BY 1, 2, 3, 4, 5, 6;
--> statement-breakpoint
DELETE FROM `place_days`;
--> statement-breakpoint
INSERT INTO `place_days` (`generation`, `place_id`, `day`, `device`, `source`, `campaign`, `came`, `reached`, `leads`)
  SELECT `generation`, `place_id`, `day`, `device`, `source`, `campaign`, `came`, `reached`, `leads` FROM `folded_days`;
--> statement-breakpoint
DROP TABLE `folded_days`;
--> statement-breakpoint
CREATE TEMP TABLE `folded_spend` AS
  SELECT `day`, folded(`source`) AS `source`, folded(`campaign`) AS `campaign`, sum(`cost`) AS `cost`, sum(`clicks`) AS `clicks` FROM `ad_spend` GROUP BY 1, 2, 3;
--> statement-breakpoint
DELETE FROM `ad_spend`;
--> statement-breakpoint
INSERT INTO `ad_spend` (`day`, `source`, `campaign`, `cost`, `clicks`) SELECT `day`, `source`, `campaign`, `cost`, `clicks` FROM `folded_spend`;
--> statement-breakpoint
DROP TABLE `folded_spend`;
