using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Cursus.Data.Webhooks;

internal sealed class WebhooksModel
    : IEntityTypeConfiguration<Webhook>,
        IEntityTypeConfiguration<WebhookEvent>,
        IEntityTypeConfiguration<WebhookDelivery>
{
    public void Configure(EntityTypeBuilder<Webhook> webhook) => webhook.HasOne<Workspace>().WithMany().HasForeignKey(w => w.WorkspaceId);

    public void Configure(EntityTypeBuilder<WebhookEvent> happened) => happened.HasOne<Workspace>().WithMany().HasForeignKey(e => e.WorkspaceId);

    public void Configure(EntityTypeBuilder<WebhookDelivery> delivery)
    {
        delivery.HasOne(d => d.Webhook).WithMany().HasForeignKey(d => d.WebhookId);
        delivery.HasIndex(d => d.NextTryAt).HasFilter("next_try_at is not null");
        delivery.HasIndex(d => new { d.WebhookId, d.CreatedAt });
    }
}
