using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Gradus.Data.Configurations;

// No key to people: what was done outlives whoever did it.
internal sealed class ActConfiguration : IEntityTypeConfiguration<Act>
{
    public void Configure(EntityTypeBuilder<Act> builder)
    {
        builder.HasIndex(act => act.At);
        builder.HasIndex(act => new { act.PersonId, act.Id });
        builder.HasIndex(act => new { act.SubjectId, act.Id });
    }
}
