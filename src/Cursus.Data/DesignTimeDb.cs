using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

namespace Cursus.Data;

/// <summary>Lets the migration tool build the model without starting the application. It never connects.</summary>
internal sealed class DesignTimeDb : IDesignTimeDbContextFactory<CursusDb>
{
    public CursusDb CreateDbContext(string[] args)
    {
        var options = new DbContextOptionsBuilder<CursusDb>();
        CursusDb.Configure(options, "Host=localhost");
        return new CursusDb(options.Options);
    }
}
