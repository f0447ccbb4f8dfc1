-- All triggers, by table. Dropped and made anew as a whole whenever this file changes.

create trigger tell_edge_of_ad_networks after insert or delete or update on ad_networks for each statement execute function tell_edge();

create trigger tell_edge_of_campaign_pixels after insert or delete on campaign_pixels for each statement execute function tell_edge();

create trigger note_fallback_of_campaign after update of fallback on campaigns
    for each row
    when (old.fallback is distinct from new.fallback) execute function note_fallback_of_campaign();
create trigger note_renamed_campaign after update of name on campaigns
    for each row when (old.name <> new.name) execute function note_renamed_campaign();

create trigger tell_edge_of_channel_pixels after insert or delete on channel_pixels for each statement execute function tell_edge();

create trigger note_dead_page after update on checked_pages
    for each row
    when (is_dead(old.verdict, old.ignored_until) is distinct from is_dead(new.verdict, new.ignored_until)) execute function note_dead_page();

create trigger tell_webhooks_of_page after update on checked_pages
    for each row when (is_dead(old.verdict, null) is distinct from is_dead(new.verdict, null)) execute function tell_webhooks_of_page();

create trigger tell_edge_of_domain_pixels after insert or delete on domain_pixels for each statement execute function tell_edge();

create trigger tell_edge_of_domains after insert or delete or update on domains for each statement execute function tell_edge();

create trigger tell_edge_of_handoff_settings after insert or delete or update on handoff_settings
    for each statement execute function tell_edge();

create trigger claim_former_addresses after insert on link_aliases referencing new table as changed for each statement
    execute function claim_former_addresses();
create trigger release_former_addresses after delete on link_aliases referencing old table as changed for each statement
    execute function release_former_addresses();
create constraint trigger note_alias after insert on link_aliases deferrable initially deferred for each row execute function note_alias();
create trigger note_alias_removal after delete on link_aliases for each row execute function note_link_removal();
create trigger note_aliases_added after insert on link_aliases
    referencing new table as changed for each statement execute function note_links_of();
create trigger note_aliases_removed after delete on link_aliases
    referencing old table as changed for each statement execute function note_links_of();
create trigger tell_edge_of_aliases after insert or delete on link_aliases for each statement execute function tell_edge();

create trigger note_fallback_of_workspace after insert or update of fallback on link_check_settings
    for each row execute function note_fallback_of_workspace();

create trigger note_link_pixels_added after insert on link_pixels
    referencing new table as changed for each statement execute function note_link_pixels();
create trigger note_link_pixels_removed after delete on link_pixels
    referencing old table as changed for each statement execute function note_link_pixels();

create trigger note_tags_added after insert on link_tags
    referencing new table as changed for each statement execute function note_links_of();
create trigger note_tags_removed after delete on link_tags
    referencing old table as changed for each statement execute function note_links_of();

create trigger release_addresses_of_links after delete on links referencing old table as gone for each statement
    execute function release_addresses_of_links();
create trigger forget_link_days after delete on links referencing old table as gone for each statement execute function forget_link_days();
create trigger note_changed_links after update on links
    referencing old table as former new table as changed for each statement execute function note_changed_links();
create trigger note_link_change before update on links for each row execute function note_link_change();
create trigger note_link_removal after delete on links for each row execute function note_link_removal();
create trigger note_new_links after insert on links referencing new table as changed for each statement execute function note_new_links();
create trigger note_pages_of_changed_links after update on links
    referencing old table as former new table as changed for each statement execute function note_pages_of_changed_links();
create trigger note_pages_of_new_links after insert on links
    referencing new table as changed for each statement execute function note_pages_of_new_links();
create trigger note_slug_removal after update of slug_key, domain_id, slug_freed_at on links for each row
    when ((old.domain_id, old.slug_key, old.slug_freed_at) is distinct from (new.domain_id, new.slug_key, new.slug_freed_at))
    execute function note_link_removal();
create trigger tell_webhooks_of_new_links after insert on links
    referencing new table as changed for each statement execute function tell_webhooks_of_new_links();
create trigger tell_webhooks_of_changed_links after update on links
    referencing old table as former new table as changed for each statement execute function tell_webhooks_of_changed_links();
create trigger tell_edge_of_links after insert or delete or update on links for each statement execute function tell_edge();

create trigger tell_edge_of_pixels after insert or delete or update on pixels for each statement execute function tell_edge();

create trigger note_post_pixels_added after insert on post_pixels
    referencing new table as changed for each statement execute function note_post_pixels();
create trigger note_post_pixels_removed after delete on post_pixels
    referencing old table as changed for each statement execute function note_post_pixels();

create trigger note_renamed_tag after update of name on tags for each row when (old.name <> new.name) execute function note_renamed_tag();

create trigger tell_edge_of_workspaces after update on workspaces for each statement execute function tell_edge();

create trigger note_routed_pages after insert on routed_pages referencing new table as changed for each statement execute function note_routed_pages();
create trigger note_routed_pages_changed after update on routed_pages
    referencing new table as changed for each statement execute function note_routed_pages();

create trigger tell_edge_of_rule_people after insert on rule_people for each statement execute function tell_edge();

create trigger keep_audit_entries before update or delete on audit_entries for each row execute function keep_audit_entries();
