DROP TABLE `route_visitors`;--> statement-breakpoint
DROP TABLE `step_visitors`;